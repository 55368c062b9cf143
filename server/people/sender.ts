/** The header in which we tell the sign-in package from where a request comes: it believes no other. */
export const SENDER = "x-latch-sender";
