import type { EngagementRecord } from "../estate/records";
import { judgeShare, momentOf } from "../rules/judging";
import { DAY } from "../time/instant";
import { estateOf, file, grant, inDays, link, T } from "@/tests/records";
import { suggestionFor } from "./suggest";

/** What the packs of other programs' answers don't show by themselves: the edges of `until`, and what work that runs holds back. */
const project = (endsAt: string): EngagementRecord => ({
  type: "engagement",
  id: "tour",
  name: "Tour",
  startsAt: inDays(-100),
  endsAt,
  itemIds: ["f"],
  organisations: ["quay.example"],
});
const idle = { lastUsedAt: null, grantedAt: inDays(-300) };

function suggested(id: string, ...more: Parameters<typeof estateOf>) {
  const estate = estateOf(file("f", null), ...more);
  const moment = momentOf(estate, T);
  const { until, ...rest } = suggestionFor(judgeShare(moment, estate.share(id)!), moment, 180, {
    ...{ "never-used": { days: 30 }, dormant: { days: 90 }, "engagement-over": { graceDays: 7 } },
  });
  return { ...rest, days: until && (until - T) / DAY };
}

test("what nobody uses is to be ended, unless its project runs: then it stays until that ends", () => {
  expect(suggested("g", grant("g", "f", "out", idle))).toEqual({ suggest: "end", days: null, because: ["never-used"] });
  expect(suggested("g", grant("g", "f", "out", idle), project(inDays(20)))).toEqual({
    suggest: "tighten",
    days: 20,
    because: ["never-used"],
  });
});

test("it stays for 180 days at most, an open link for 30, and never longer than it would", () => {
  const used = { lastUsedAt: inDays(-1) };
  expect(suggested("g", grant("g", "f", "out", used))).toEqual({ suggest: "keep", days: 180, because: [] });
  expect(suggested("l", link("l", "f", used))).toEqual({ suggest: "keep", days: 30, because: [] });
  expect(suggested("l", link("l", "f", { ...used, expiresAt: inDays(9) }))).toMatchObject({ days: 9 });
});
