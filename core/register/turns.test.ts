import { estateOf, file, grant, inDays, item, link, NOW, T } from "@/tests/records";
import { DEFAULT_RULES } from "../rules/findings";
import { judgeShare } from "../rules/judging";
import { DAY, NEVER, seconds } from "../time/instant";
import type { EstateRecord } from "../estate/records";
import { Register } from "./register";
import { termsOf, turnsAround } from "./turns";

function turn(share: EstateRecord & { id: string }, t = T, ...more: EstateRecord[]) {
  const estate = estateOf(item("a", null), file("f", "a"), share, more);
  const moment = { estate, t };
  return turnsAround(judgeShare(moment, estate.share(share.id)!), t, termsOf(DEFAULT_RULES, estate)).next;
}

const engagement: EstateRecord = {
  type: "engagement",
  id: "e",
  name: "Tour",
  itemIds: ["a"],
  organisations: ["quay.example"],
  startsAt: inDays(-90),
  endsAt: inDays(-2),
};

test.each([
  ["a start that lies ahead", turn(link("l", "f", { opensAt: inDays(3), lastUsedAt: NOW })), inDays(3)],
  ["an end that lies ahead", turn(link("l", "f", { expiresAt: inDays(3) })), inDays(3)],
  [
    "30 days before an end (open-expiry, and the risk)",
    turn(link("l", "f", { expiresAt: inDays(40), lastUsedAt: NOW })),
    inDays(10),
  ],
  [
    "180 days before an end (outside-expiry)",
    turn(grant("g", "f", "out", { expiresAt: inDays(181), lastUsedAt: NOW })),
    inDays(1),
  ],
  ["a revoke that is told ahead", turn(link("l", "f", { revokedAt: inDays(1) })), inDays(1)],
  ["the end of an engagement's grace", turn(link("l", "f", { lastUsedAt: NOW }), T, engagement), inDays(5)],
])("a share may turn at %s", (_, at, wanted) => expect(at).toBe(seconds(wanted)));

test("a share may turn a second after it has been unused for just as long as is allowed", () => {
  // CIS Controls v8, safeguard 5.3: 45 days. Until they are full nothing is found; then it is.
  expect(turn(link("l", "f", { lastUsedAt: inDays(-40) }))).toBe(T + 5 * DAY + 1);
  // 14 days after it was made, where it was never used (common practice, no source).
  expect(turn(link("l", "f", { lastUsedAt: null, createdAt: inDays(-1) }))).toBe(T + 13 * DAY + 1);
});

test("what lies behind turns nothing any more", () => {
  expect(turn(link("l", "f", { lastUsedAt: inDays(-60), createdAt: inDays(-90) }))).toBe(NEVER);
});

test("at the turn, and not a second before, the register says so", () => {
  const estate = estateOf(
    item("a", null),
    file("f", "a"),
    link("l", "f", { lastUsedAt: inDays(-40), expiresAt: inDays(9) }),
  );
  const register = new Register(estate);
  const dormant = (t: number) => [register.at(t).length, register.rulesOf(0, "rules").includes("dormant")];
  expect(dormant(T)).toEqual([1, false]);
  expect(dormant(T + 5 * DAY)).toEqual([0, false]);
  expect(dormant(T + 5 * DAY + 1)).toEqual([1, true]);
  expect(dormant(T + 6 * DAY)).toEqual([0, true]);
  expect([register.at(T + 9 * DAY).length, register.listedSlots.length]).toEqual([1, 1]);
});
