import { isNamedOutside } from "../judged";
import { none, rule } from "../rule";
import { lowerRole } from "../wanted";

export const outsideManage = rule({
  title: "An outsider can manage",
  sentence: "No outsider can manage.",
  severity: "high",
  parameters: none,
  breaks: (one) => isNamedOutside(one) && one.share.role === "manage",
  reason: () => "Someone outside can share this onward.",
  remedies: (one) => [lowerRole(one, "edit", "Let them edit, not manage")],
});
