/** What the pages ask of the sign-in package: nothing else of it can be reached. Its addresses begin with /api/auth. */
export const SIGN_IN = {
  signIn: { method: "POST", path: "/sign-in/email" },
  signInElsewhere: { method: "POST", path: "/sign-in/social" },
  backFromElsewhere: { method: "GET", path: "/callback/:id" },
  signOut: { method: "POST", path: "/sign-out" },
  changePassword: { method: "POST", path: "/change-password" },
  /** What makes codes, and codes for the case that it is lost. */
  beginCodes: { method: "POST", path: "/two-factor/enable" },
  giveCode: { method: "POST", path: "/two-factor/verify-totp" },
  giveRecoveryCode: { method: "POST", path: "/two-factor/verify-backup-code" },
  newRecoveryCodes: { method: "POST", path: "/two-factor/generate-backup-codes" },
  endCodes: { method: "POST", path: "/two-factor/disable" },
  askForPasskey: { method: "GET", path: "/passkey/generate-authenticate-options" },
  givePasskey: { method: "POST", path: "/passkey/verify-authentication" },
  beginPasskey: { method: "GET", path: "/passkey/generate-register-options" },
  addPasskey: { method: "POST", path: "/passkey/verify-registration" },
  dropPasskey: { method: "POST", path: "/passkey/delete-passkey" },
} as const satisfies Record<string, { method: "GET" | "POST"; path: `/${string}` }>;
export type SignInName = keyof typeof SIGN_IN;

/** By what somebody has signed in. A password by itself is one factor; each of the others is, or comes after, another. */
export const SIGNED_IN_BY = ["password", "code", "recovery-code", "passkey", "single-sign-on"] as const;
export type SignedInBy = (typeof SIGNED_IN_BY)[number];

/** The header in which a page says for how many seconds nobody has touched it: what it asks by itself is no use of it. */
export const IDLE_HEADER = "x-idle";

/** Somebody signs in again after so many hours, and after so many minutes in which they did nothing. */
export const SIGN_IN_HOURS = 12;
export const SIGN_IN_IDLE_MINUTES = 60;
/** What is large or loosens something takes a sign-in that is no older. */
export const FRESH_MINUTES = 15;
