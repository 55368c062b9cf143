import { randomBytes } from "node:crypto";
import { DAY } from "@/core/time/instant";
import type { Platform } from "../platform/platform";
import { signed, subjectOf } from "../platform/signed";

/** So long a browser by which somebody has signed in is known for theirs. */
export const KNOWN_BROWSER_S = 180 * DAY;

/** The cookie's name: only where it can't be sent unprotected may it have a prefix that says so. */
export const browserCookie = ({ url }: { url: string }) =>
  (url.startsWith("https:") ? "__Host-" : "") + "latch-browser";

/** What a browser is to remember, so that it is known again as one of somebody's. */
export function newBrowser(app: Platform, email: string): string {
  const subject = JSON.stringify([email, randomBytes(9).toString("base64url")]);
  return signed(app, "browser", subject, app.clock.seconds() + KNOWN_BROWSER_S);
}

/** By what a browser is counted, where it is known as one of theirs; else null. */
export function knownBrowser(app: Platform, cookie: string | null, email: string): string | null {
  const subject = cookie === null ? null : subjectOf(app, "browser", cookie);
  if (subject === null) return null;
  const [of, id] = JSON.parse(subject) as [string, string];
  return of === email ? `${email} ${id}` : null;
}
