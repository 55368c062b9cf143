import type { RuleId } from "../rules/list";
import { DAY, rfc3339 } from "../time/instant";
import { estateOf, file, grant, inDays, link, store, T } from "@/tests/records";
import { changesOf, undecidedChanges, whyNotKept } from "./decision";
import { endingOn, tighteningsOf } from "./tightenings";

function shareIn(...records: Parameters<typeof estateOf>) {
  const estate = estateOf(file("f", null, { label: "confidential" }), ...records);
  return { estate, share: estate.share("s")! };
}
const wordsOf = (broken: RuleId[], ...records: Parameters<typeof estateOf>) => {
  const { estate, share } = shareIn(...records);
  return tighteningsOf(estate, share, broken, T).map(({ key, words }) => `${key}: ${words}`);
};
const bare = store("st", {
  linkPassword: false,
  linkExpiry: [],
  grantExpiry: [],
  downloadBlock: { on: [], roles: [] },
});

test("what ends all that is wrong comes first, then each latch by itself; what holds already isn't among them", () => {
  expect(wordsOf(["open-password", "open-expiry"], link("s", "f", { role: "edit" }))).toEqual([
    "suggested: Set a password and end 4 Nov 2026, 08:00 UTC",
    ...["password: Set a password", "download: Lower to view and block downloads", "view: Lower to view"],
    "end: End 4 Nov 2026, 08:00 UTC",
  ]);
  const shut = { password: true, download: false, expiresAt: inDays(3) };
  expect(wordsOf([], link("s", "f", shut))).toEqual([]);
});

test("where the only remedy is its end, nothing is suggested; where the store can do little, little is offered", () => {
  expect(wordsOf(["party-denied"], grant("s", "f", "out"))).not.toContainEqual(expect.stringMatching(/^suggested/));
  expect(wordsOf([], bare, link("s", "f"))).toEqual(["end: Revoke on 4 Nov 2026, 08:00 UTC"]);
});

test("keeping ends it on that day, by a standing order where the store keeps no end, unless it ends sooner", () => {
  const keep = { decision: "keep", until: inDays(90), reason: "" } as const;
  const of = (...records: Parameters<typeof estateOf>) => {
    const { estate, share } = shareIn(...records);
    return changesOf(estate, share, [], keep, T);
  };
  expect(of(link("s", "f"))).toEqual([{ action: "set-expiry", shareId: "s", expiresAt: inDays(90) }]);
  expect(of(bare, link("s", "f"))).toEqual([{ action: "order-revoke", shareId: "s", on: inDays(90) }]);
  expect(of(link("s", "f", { expiresAt: inDays(9) }))).toEqual([]);
  const { estate, share } = shareIn(link("s", "f"));
  expect(changesOf(estate, share, [], { decision: "end" }, T)).toEqual([{ action: "revoke", shareId: "s" }]);
  expect(changesOf(estate, share, [], { decision: "tighten", way: "no such way" }, T)).toBeNull();
  expect(endingOn(estate, share, T + DAY, T)).toEqual([
    { action: "set-expiry", shareId: "s", expiresAt: rfc3339(T + DAY) },
  ]);
});

test("what nobody decides stays, gets an end, loses editing and downloads, or is ended", () => {
  const undecidedOf = (
    undecided: Parameters<typeof undecidedChanges>[2]["undecided"],
    ...more: Parameters<typeof estateOf>
  ) => {
    const { estate, share } = shareIn(...more, link("s", "f", { role: "edit" }));
    return undecidedChanges(estate, share, { undecided, undecidedDays: 30 }, T).map(({ action }) => action);
  };
  expect(undecidedOf("stay")).toEqual([]);
  expect(undecidedOf("end-date")).toEqual(["set-expiry"]);
  expect(undecidedOf("lock")).toEqual(["set-role", "block-download"]);
  expect(undecidedOf("lock", bare)).toEqual(["set-role"]);
  expect(undecidedOf("end")).toEqual(["revoke"]);
});

test("keeping has a limit, counted in whole days, and takes a reason against the suggestion to end", () => {
  const why = (days: number, reason = "", suggested = "end") =>
    whyNotKept({ decision: "keep", until: inDays(days), reason }, suggested, 180 * DAY, T);
  expect(why(180.9, "Needed")).toBeNull();
  expect(why(181.1, "Needed")).toContain("180 days ahead");
  expect(why(10)).toContain("Give a reason");
  expect(why(10, "", "tighten")).toBeNull();
  expect(why(0, "Needed")).toContain("in the future");
});
