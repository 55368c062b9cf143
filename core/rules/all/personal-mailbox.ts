import { hasOutsiderOf, none, organisationsOf, rule } from "../rule";
import { withoutStance } from "../wanted";

export const personalMailbox = rule({
  title: "Shared with a private mailbox",
  sentence: "Nothing is shared with a private mailbox.",
  severity: "high",
  parameters: none,
  breaks: (one, moment) => hasOutsiderOf(one, moment, "personal"),
  reason: (one, moment) => `Private mailbox at ${organisationsOf(one, moment, "personal")}.`,
  remedies: (one, moment) => withoutStance(one, moment, "personal"),
});
