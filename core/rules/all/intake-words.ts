import { isIntakeLink } from "../judged";
import { none, rule } from "../rule";

export const intakeWords = rule({
  title: "Intake link with the store’s own words",
  sentence: "Intake links say in our own words who asks for files and why.",
  severity: "low",
  isExtra: true,
  parameters: none,
  looksAt: isIntakeLink,
  breaks: (one) => isIntakeLink(one) && one.share.hasNoWords,
  reason: () => "Its visitors read the store’s own text, which is easily taken for a fraud.",
});
