import { z } from "zod";
import { rule } from "../rule";
import { givePassword } from "../wanted";

export const weakPassword = rule({
  title: "A link's password is weak",
  sentence: "Passwords on links have at least [minLength] characters, and aren't common ones.",
  severity: "high",
  isExtra: true,
  // NIST SP 800-63B-4, 3.1.1.2: 15 characters where a password stands alone, and a comparison with a blocklist.
  parameters: z.strictObject({ minLength: z.int().min(1).max(128).default(15) }),
  looksAt: (one) => one.live && one.share.hasPassword,
  breaks: ({ live, share }, _, { minLength }) =>
    live &&
    share.hasPassword &&
    (share.hasCommonPassword || (share.passwordLength > 0 && share.passwordLength < minLength)),
  reason: ({ share }, _, { minLength }) =>
    share.hasCommonPassword
      ? "Many people choose this password."
      : `Its password has ${share.passwordLength} characters; ${minLength} are required.`,
  remedies: (one) => [givePassword(one, "Give it a new password")],
  measure: {
    title: "the characters in their password",
    figure: { slot: "minLength", standard: 15, of: ({ share }) => share.passwordLength || null, none: "Unknown" },
  },
});
