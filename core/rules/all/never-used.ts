import { z } from "zod";
import { DAY } from "../../time/instant";
import { days, daysAgo, isUseTold, rule } from "../rule";

export const neverUsed = rule({
  title: "Never used",
  sentence: "Outside shares end if nobody uses them within [days] days.",
  severity: "low",
  parameters: z.strictObject({ days: days(14) }),
  looksAt: (one, moment) => isUseTold(one, moment) && one.share.lastUsed === null,
  breaks: (one, moment, { days }) =>
    one.outside && one.share.lastUsed === null && one.share.made < moment.t - days * DAY && isUseTold(one, moment),
  reason: ({ share }, moment) => `Made ${daysAgo(share.made, moment)} and never opened.`,
  measure: {
    title: "the days since they were made; never used",
    figure: { slot: "days", standard: 14, of: ({ share }, { t }) => (t - share.made) / DAY, none: "Unknown" },
  },
  turn: { afterUse: "days" },
});
