import { z } from "zod";
import { isOpenLink } from "../judged";
import { days, daysUntilEnd, endReason, endsLaterThan, rule } from "../rule";
import { giveEnd } from "../wanted";

export const openExpiry = rule({
  title: "Open link without a near end",
  sentence: "Open links end within [maxDays] days.",
  severity: "high",
  parameters: z.strictObject({ maxDays: days(30) }),
  looksAt: isOpenLink,
  breaks: (one, moment, { maxDays }) => isOpenLink(one) && endsLaterThan(one, moment, maxDays),
  reason: (one, moment, { maxDays }) => endReason(one, moment, maxDays),
  remedies: (one, moment, { maxDays }) => [giveEnd(one, moment, maxDays)],
  measure: daysUntilEnd(30),
  latch: "expiry",
  turn: { beforeEnd: "maxDays" },
});
