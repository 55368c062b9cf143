import { z } from "zod";
import { DAY } from "../../time/instant";
import { days, daysAgo, isUseTold, rule } from "../rule";

export const dormant = rule({
  title: "Unused for a long time",
  sentence: "Outside shares end after [days] days without use.",
  severity: "low",
  // CIS Controls v8, safeguard 5.3: 45 days of inactivity (said there of accounts).
  parameters: z.strictObject({ days: days(45) }),
  looksAt: (one, moment) => isUseTold(one, moment) && one.share.lastUsed !== null,
  breaks: (one, moment, { days }) =>
    one.outside && one.share.lastUsed !== null && one.share.lastUsed < moment.t - days * DAY && isUseTold(one, moment),
  reason: ({ share }, moment, { days }) => `Last used ${daysAgo(share.lastUsed!, moment)}; ${days} days are allowed.`,
  measure: {
    title: "the days since they were last used",
    figure: { slot: "days", standard: 45, of: ({ share }, { t }) => (t - share.lastUsed!) / DAY, none: "Unknown" },
  },
  turn: { afterUse: "days" },
});
