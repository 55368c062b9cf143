import { z } from "zod";
import { isIntakeLink } from "../judged";
import { days, daysUntilEnd, endReason, endsLaterThan, rule } from "../rule";
import { giveEnd } from "../wanted";

export const intakeWindow = rule({
  title: "Intake link without a near end",
  sentence: "Intake links end within [maxDays] days.",
  severity: "low",
  parameters: z.strictObject({ maxDays: days(30) }),
  looksAt: isIntakeLink,
  breaks: (one, moment, { maxDays }) => isIntakeLink(one) && endsLaterThan(one, moment, maxDays),
  reason: (one, moment, { maxDays }) => endReason(one, moment, maxDays),
  remedies: (one, moment, { maxDays }) => [giveEnd(one, moment, maxDays)],
  measure: daysUntilEnd(30),
  latch: "expiry",
  turn: { beforeEnd: "maxDays" },
});
