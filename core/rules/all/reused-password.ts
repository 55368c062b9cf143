import { none, rule } from "../rule";
import { givePassword } from "../wanted";

export const reusedPassword = rule({
  title: "A link's password is used again",
  sentence: "Each link has a password of its own.",
  severity: "high",
  isExtra: true,
  parameters: none,
  breaks: ({ live, share }, moment) =>
    live && share.passwordMark > 0 && moment.linksWithPassword(share.passwordMark) > 1,
  reason: () => "Another link has the same password: whoever knows one knows both.",
  remedies: (one) => [givePassword(one, "Give it a new password")],
});
