import { estateOf, file, grant, inDays, link, named, NOW, store, T } from "@/tests/records";
import { DAY } from "../time/instant";
import { monthsBefore, overLinks } from "./overLinks";

const estate = estateOf(store("st"), [
  file("f", null),
  file("binned", null, { state: "binned" }),
  link("live", "f", { createdAt: inDays(-100), lastUsedAt: inDays(-1) }),
  link("idle", "f", { createdAt: inDays(-800), lastUsedAt: inDays(-365) }),
  link("never", "f", { createdAt: inDays(-30), lastUsedAt: null }),
  link("ended", "f", { createdAt: inDays(-100), expiresAt: inDays(-50) }),
  link("used-up", "f", { createdAt: inDays(-10), maxUses: 1, uses: 1 }),
  link("revoked", "f", { createdAt: inDays(-100), revokedAt: inDays(-20) }),
  link("broken", "binned", { createdAt: inDays(-100) }),
  named("named", "f", ["out@quay.example"], { createdAt: inDays(-5) }),
  grant("g", "f", "out"),
]);

test("what is over is counted by store and by why: item gone, or ended and used up", () => {
  expect(overLinks(estate, T, []).over).toEqual([{ store: "Store st", broken: 1, spent: 2 }]);
});

test("live links at instants, by what is known of each today: made by then, and not yet ended", () => {
  const { trend } = overLinks(estate, T, [T - 900 * DAY, T - 60 * DAY, T - 25 * DAY, T]);
  // Sixty days before: live, idle, ended, revoked; twenty-five before: live, idle, never, revoked.
  expect(trend.map(({ stores }) => stores["Store st"] ?? 0)).toEqual([0, 4, 4, 5]);
});

test("a year without use is told of live links", () => {
  const { live, unusedForAYear } = overLinks(estate, T, []);
  expect([live, unusedForAYear]).toEqual([4, 1]);
});

test("months begin on their first day in UTC", () => {
  expect(
    monthsBefore(Date.parse("2026-02-14T10:00:00Z") / 1_000, 3).map((at) => new Date(at * 1_000).toISOString()),
  ).toEqual([
    "2025-12-01T00:00:00.000Z",
    "2026-01-01T00:00:00.000Z",
    "2026-02-01T00:00:00.000Z",
    "2026-02-14T10:00:00.000Z",
  ]);
  expect(NOW.slice(0, 4)).toBe("2026");
});
