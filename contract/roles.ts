/** What somebody who signs in can be. */
export const ROLES = ["administrator", "auditor", "owner"] as const;
export type SignInRole = (typeof ROLES)[number];
