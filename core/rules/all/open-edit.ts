import { isOpenLink } from "../judged";
import { none, rule } from "../rule";
import { lowerRole, makeNamed } from "../wanted";

export const openEdit = rule({
  title: "Anyone can edit",
  sentence: "Open links let nobody edit.",
  severity: "urgent",
  parameters: none,
  looksAt: isOpenLink,
  breaks: (one) => isOpenLink(one) && one.share.role === "edit",
  reason: () => "Whoever has the address can change the files.",
  remedies: (one) => [lowerRole(one, "view", "Let them only view"), makeNamed(one)],
});
