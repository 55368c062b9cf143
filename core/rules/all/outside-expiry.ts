import { z } from "zod";
import { isNamedOutside } from "../judged";
import { days, daysUntilEnd, endReason, endsLaterThan, rule } from "../rule";
import { giveEnd } from "../wanted";

export const outsideExpiry = rule({
  title: "Outside share without a near end",
  sentence: "Shares with named outsiders end within [maxDays] days.",
  severity: "low",
  // PCI DSS v4 7.2.4: access is reviewed at least every six months.
  parameters: z.strictObject({ maxDays: days(180) }),
  looksAt: isNamedOutside,
  breaks: (one, moment, { maxDays }) => isNamedOutside(one) && endsLaterThan(one, moment, maxDays),
  reason: (one, moment, { maxDays }) => endReason(one, moment, maxDays),
  remedies: (one, moment, { maxDays }) => [giveEnd(one, moment, maxDays)],
  measure: daysUntilEnd(180),
  latch: "expiry",
  turn: { beforeEnd: "maxDays" },
});
