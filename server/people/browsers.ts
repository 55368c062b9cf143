import { randomBytes } from "node:crypto";
import { DAY } from "@/core/time/instant";
import type { Platform } from "../platform/platform";
import { signed, subjectOf } from "../platform/signed";

/** How long a browser in which somebody has signed in is recognised as theirs. */
export const KNOWN_BROWSER_S = 180 * DAY;

/** The cookie's name: only where it can't be sent unprotected may it have a prefix that says so. */
export const browserCookie = ({ url }: { url: string }) =>
  (url.startsWith("https:") ? "__Host-" : "") + "latch-browser";

/** What a browser stores so that it is recognised as somebody's. */
export function newBrowser(app: Platform, email: string): string {
  const subject = JSON.stringify([email, randomBytes(9).toString("base64url")]);
  return signed(app, "browser", subject, app.clock.seconds() + KNOWN_BROWSER_S);
}

/** The key that a known browser is counted by; null for an unknown one. */
export function knownBrowser(app: Platform, cookie: string | null, email: string): string | null {
  const subject = cookie === null ? null : subjectOf(app, "browser", cookie);
  if (subject === null) return null;
  const [of, id] = JSON.parse(subject) as [string, string];
  return of === email ? `${email} ${id}` : null;
}
