import { estateOf, file, grant, item, link, named, store, T } from "@/tests/records";
import { listedRows } from "@/tests/registerModel";
import type { EstateRecord } from "../estate/records";

function latches(id: string, ...records: EstateRecord[]) {
  const { expiry, password, download, named } = listedRows(estateOf(...records), T).find(
    (row) => row.id === id,
  )!.latches;
  return [expiry, password, download, named].join(" ");
}

const end = "2026-10-20T00:00:00Z";

test.each([
  [
    "an open link with everything open to something confidential",
    "confidential",
    {},
    "demanded demanded demanded open",
  ],
  ["the same to something restricted", "restricted", {}, "demanded demanded demanded demanded"],
  ["the same to something public", "public", {}, "demanded open open open"],
  [
    "one that is shut as far as it can be",
    "internal",
    { expiresAt: end, password: true, download: false },
    "shut shut shut open",
  ],
  ["a house link", "internal", { reach: "house" }, "open impossible open shut"],
] as const)("%s", (_, label, more, states) => {
  expect(latches("l", file("f", null, { label }), link("l", "f", more))).toBe(states);
});

test("what a store can't do is said so, unless a rule demands it", () => {
  const limits = store("st", {
    linkPassword: false,
    linkExpiry: ["open"],
    downloadBlock: { on: ["file"], roles: ["view"] },
  });
  const folder = item("a", null, { label: "internal" });
  expect(latches("n", limits, folder, named("n", "a", ["in@home.example"]))).toBe(
    "impossible impossible impossible shut",
  );
  expect(latches("n", limits, folder, named("n", "a", ["x@quay.example"]))).toBe("demanded impossible impossible shut");
  expect(latches("l", limits, folder, link("l", "a"))).toBe("demanded demanded impossible open");
});

test("a block that the store doesn't keep is not shut", () => {
  const limits = store("st", { downloadBlock: { on: ["file"], roles: ["view"] } });
  expect(latches("g", limits, item("a", null), grant("g", "a", "in", { download: false }))).toBe(
    "open impossible impossible shut",
  );
  expect(latches("g", limits, file("f", null), grant("g", "f", "in", { download: false }))).toBe(
    "open impossible shut shut",
  );
});
