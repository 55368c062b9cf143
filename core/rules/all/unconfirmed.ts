import { z } from "zod";
import { DAY } from "../../time/instant";
import { days, daysAgo, rule } from "../rule";
import { askInRound, giveEnd } from "../wanted";

export const unconfirmed = rule({
  title: "Not confirmed",
  sentence: "Outside shares older than [maxDays] days have been confirmed in a round.",
  severity: "low",
  isExtra: true,
  // PCI DSS v4 7.2.4: access is reviewed at least every six months.
  parameters: z.strictObject({ maxDays: days(180) }),
  breaks: ({ outside, share }, { t }, { maxDays }) =>
    outside && share.made < t - maxDays * DAY && (share.confirmed === null || share.confirmed <= t),
  reason: ({ share }, moment) =>
    share.confirmed === null
      ? `Made ${daysAgo(share.made, moment)}, and nobody has confirmed since that it’s needed.`
      : `Confirmed until ${moment.dayWords(share.confirmed)}, and not since.`,
  remedies: (one, moment, { maxDays }) => [askInRound(), giveEnd(one, moment, maxDays)],
  measure: {
    title: "the days since they were made",
    figure: { slot: "maxDays", standard: 180, of: ({ share }, { t }) => (t - share.made) / DAY, none: "Unknown" },
  },
  turn: { afterMade: "maxDays" },
});
