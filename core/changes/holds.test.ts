import { buildEstate } from "../estate/estate";
import { grant, head, inDays, item, link, person, store, T } from "@/tests/records";
import { intendedChanges } from "./intent";
import { leftOutWords } from "./holds";

const estate = buildEstate([
  head(),
  store("stacks"),
  person("ida", "ida@home.example"),
  person("out", "out@quay.example"),
  item("a", null, { storeId: "stacks", ownerId: "ida" }),
  link("soon", "a", { expiresAt: inDays(3), role: "edit" }),
  link("far", "a", { expiresAt: inDays(90) }),
  link("never", "a"),
  link("over", "a", { expiresAt: inDays(-2) }),
  link("keyed", "a", { password: true }),
  link("blocked", "a", { download: false }),
  link("gone", "a", { revokedAt: inDays(-1) }),
  grant("g", "a", "out", { role: "view" }),
]);
const changesOf = (change: Parameters<typeof intendedChanges>[1]) => intendedChanges(estate, change, T);
const end = (shareId: string, more = {}) =>
  changesOf({ action: "set-expiry", shareId, expiresAt: inDays(14), ...more } as never);

test("an end is given where there is none or a later one, and extends nothing unless that is said", () => {
  expect(["never", "far"].map((id) => end(id)!.length)).toEqual([1, 1]);
  expect(["soon", "over"].map((id) => end(id))).toEqual([[], []]);
  expect(end("soon", { later: true, reopen: true })).toEqual([
    { action: "set-expiry", shareId: "soon", expiresAt: inDays(14), later: true },
  ]);
  expect(end("over", { later: true, reopen: true })).toEqual([
    { action: "set-expiry", shareId: "over", expiresAt: inDays(14), reopen: true },
  ]);
  // Leave to loosen is kept only where it is used: else it would have to be confirmed for nothing.
  expect(end("never", { later: true, reopen: true })).toEqual([
    { action: "set-expiry", shareId: "never", expiresAt: inDays(14) },
  ]);
});

test("a standing order keeps leave to come later only where the share ends sooner", () => {
  const order = (shareId: string) =>
    changesOf({ action: "order-revoke", shareId, on: inDays(14), later: true } as never)!.map((one) => "later" in one);
  expect(["soon", "far", "never"].map(order)).toEqual([[true], [false], [false]]);
});

test("a password is replaced only where that is said", () => {
  expect(changesOf({ action: "set-password", shareId: "never" })).toHaveLength(1);
  expect(changesOf({ action: "set-password", shareId: "keyed" })).toEqual([]);
  expect(changesOf({ action: "set-password", shareId: "keyed", replace: true })).toEqual([
    { action: "set-password", shareId: "keyed", replace: true },
  ]);
  expect(changesOf({ action: "set-password", shareId: "never", replace: true })).toEqual([
    { action: "set-password", shareId: "never" },
  ]);
});

test("what holds already is left out, and what doesn't is not", () => {
  expect(changesOf({ action: "block-download", shareId: "blocked" })).toEqual([]);
  expect(changesOf({ action: "block-download", shareId: "never" })).toHaveLength(1);
  expect(changesOf({ action: "set-role", shareId: "g", role: "view" })).toEqual([]);
  expect(changesOf({ action: "set-role", shareId: "soon", role: "view" })).toHaveLength(1);
  expect(changesOf({ action: "revoke", shareId: "gone" })).toEqual([]);
  expect(changesOf({ action: "revoke", shareId: "over" })).toHaveLength(1);
});

test("what was left out is counted in a sentence", () => {
  expect(leftOutWords({})).toBeNull();
  expect(leftOutWords({ "set-expiry": 6, "set-password": 1 })).toBe(
    "Left as they are: 6 shares already end sooner or have ended, 1 share already has a password or has ended.",
  );
});
