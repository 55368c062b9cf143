import { hasOutsiderOf, none, organisationsOf, rule } from "../rule";
import { withoutStance } from "../wanted";

export const partyDenied = rule({
  title: "Shared with a denied organisation",
  sentence: "Nothing is shared with a denied organisation.",
  severity: "urgent",
  parameters: none,
  breaks: (one, moment) => hasOutsiderOf(one, moment, "denied"),
  reason: (one, moment) => `${organisationsOf(one, moment, "denied")} is denied.`,
  remedies: (one, moment) => withoutStance(one, moment, "denied"),
});
