import { isIntakeLink } from "../judged";
import { none, rule } from "../rule";
import { givePassword } from "../wanted";

export const intakePassword = rule({
  title: "Intake link without a password",
  sentence: "Intake links have a password.",
  severity: "low",
  parameters: none,
  looksAt: isIntakeLink,
  breaks: (one) => isIntakeLink(one) && one.share.isLink && !one.share.hasPassword,
  reason: () => "Anyone who learns the address can send files in.",
  remedies: (one) => [givePassword(one)],
  latch: "password",
});
