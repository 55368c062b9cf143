import { createHmac, timingSafeEqual } from "node:crypto";
import type { Key } from "./keyRing";
import type { Platform } from "./platform";

/** What a signed address lets whoever holds it do; one thing for each. */
export type Purpose = "see-alert" | "answer" | "round" | "preview" | "engagement" | "browser" | "welcome";

/** A text that lets its holder do one thing to one subject until an instant, and nothing else. */
export function signed(app: Platform, purpose: Purpose, subject: string, until: number): string {
  const body = Buffer.from(JSON.stringify([purpose, subject, until])).toString("base64url");
  const { newest } = app.secrets.ring;
  return [newest.id, body, signature(app, newest, body)].join(".");
}

/** The subject, where the text was signed by us for this purpose and still holds; else null. */
export function subjectOf(app: Platform, purpose: Purpose, text: string): string | null {
  const [id, body = "", given = ""] = text.split(".");
  const key = app.secrets.ring.find(id);
  if (!key) return null;
  const [a, b] = [Buffer.from(signature(app, key, body)), Buffer.from(given)];
  if (a.length !== b.length || !timingSafeEqual(a, b)) return null;
  const [of, subject, until] = JSON.parse(Buffer.from(body, "base64url").toString()) as [string, string, number];
  return of === purpose && app.clock.seconds() < until ? subject : null;
}

function signature(app: Platform, key: Key, body: string): string {
  return createHmac("sha256", app.secrets.keyFor("signed addresses", key)).update(body).digest("base64url");
}
