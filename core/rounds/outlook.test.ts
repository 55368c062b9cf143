import { finish } from "../time/steps";
import { momentOf } from "../rules/judging";
import { estateOf, file, grant, group, inDays, item, link, named, person, T } from "@/tests/records";
import { askedAbout } from "./askedAbout";
import { audienceKeyOf } from "./audienceKey";
import { forecastOf } from "./forecast";
import { isOver, lineOutlook } from "./outlook";

const people = [person("ada", "ada@home.example"), person("q2", "ben@quay.example"), person("o", "o@other.example")];
const place = [item("space", null, { kind: "space" }), file("f", "space", { ownerId: "ada", label: "confidential" })];
const estateWith = (...records: Parameters<typeof estateOf>) => estateOf(...people, ...place, ...records);
const asked = (...records: Parameters<typeof estateOf>) => {
  const estate = estateWith(...records);
  return askedAbout(estate, estate.share("s")!);
};

test("what a share is decided by marks it; what says nothing about it doesn't", () => {
  const mark = asked(named("s", "f", ["out@quay.example"]));
  expect(asked(named("s", "f", ["out@quay.example"], { lastUsedAt: inDays(-1) }), grant("x", "f", "q2"))).toBe(mark);
  for (const other of [
    named("s", "f", ["out@quay.example", "ben@quay.example"]),
    named("s", "f", ["out@quay.example"], { role: "edit" }),
    named("s", "f", ["out@quay.example"], { download: false }),
    named("s", "f", ["out@quay.example"], { expiresAt: inDays(9) }),
    named("s", "space", ["out@quay.example"]),
  ])
    expect(asked(other)).not.toBe(mark);
  expect(asked(named("s", "f", ["out@quay.example"]), file("f", "space", { label: "restricted" }))).not.toBe(mark);
});

test.each([
  ["one outsider", grant("s", "f", "q2"), "person ben@quay.example"],
  [
    "people of one organisation",
    named("s", "f", ["out@quay.example", "ben@quay.example"]),
    "organisation quay.example",
  ],
  [
    "people of several",
    named("s", "f", ["ben@quay.example", "o@other.example"]),
    "organisations other.example quay.example",
  ],
  ["whoever has the address", link("s", "f"), "open"],
  ["people in-house", grant("s", "f", "in"), "house"],
])("by person, a share for %s goes under them", (_, share, key) => {
  const estate = estateWith(share);
  expect(audienceKeyOf(estate, estate.share("s")!).key).toBe(key);
});

test("a line is told with its suggestion, why, and what can be done", () => {
  const estate = estateWith(link("s", "f", { lastUsedAt: inDays(-2) }));
  expect(lineOutlook(estate.share("s")!, momentOf(estate, T))).toMatchObject({
    ...{ itemName: "Item f", place: ["Item space"], label: "confidential", files: 1, isOver: false, isUseTold: true },
    suggested: { suggest: "tighten", because: ["open-expiry", "open-password", "outside-download"] },
    reasons: [{ reason: "No end date; 30 days are allowed." }, {}, {}],
  });
  const inside = estateWith(grant("s", "f", "in"));
  expect(lineOutlook(inside.share("s")!, momentOf(inside, T)).suggested).toBeNull();
  expect(isOver(estate, undefined, T)).toBe(true);
});

test("a forecast counts the lines of each, and those of nobody", () => {
  const estate = estateWith(link("s", "f"), link("t", "space"), ...group("g", "ada", "q2"), grant("u", "f", "g"));
  const deciding = { order: ["owner" as const], named: null, heads: new Map(), deputies: new Map() };
  const slots = Uint32Array.from(["s", "t", "u"], (id) => estate.share(id)!.slot);
  // The group's link is for the owner too, and nobody owns the space.
  expect(finish(forecastOf(estate, slots, deciding, T))).toEqual({
    ...{ lines: 3, deciders: 1, nobodys: 2 },
    most: [{ address: "ada@home.example", name: "Person ada", lines: 1 }],
  });
});
