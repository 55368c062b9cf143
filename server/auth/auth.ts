import { betterAuth } from "better-auth";
import { createAuthMiddleware } from "better-auth/api";
import { database } from "../db/open";
import { append } from "../ledger/ledger";
import { keyFor } from "../secrets";
import { settings } from "../settings";

export const ROLES = ["administrator", "auditor", "owner"] as const;
export type SignInRole = (typeof ROLES)[number];

async function makeAuth() {
  const db = await database();
  const { url } = settings();
  return betterAuth({
    database: { db, type: "sqlite" },
    baseURL: url,
    basePath: "/api/auth",
    trustedOrigins: [url],
    secret: keyFor("sessions").toString("base64"),
    telemetry: { enabled: false },
    // Nobody signs up: an administrator is made at the first run, others by an administrator.
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 15 },
    user: { additionalFields: { role: { type: "string", input: false, defaultValue: "auditor" } } },
    session: { expiresIn: 12 * 3_600, updateAge: 3_600 },
    rateLimit: {
      enabled: true,
      storage: "database",
      window: 60,
      max: 300,
      customRules: { "/sign-in/email": { window: 60, max: 8 } },
    },
    advanced: {
      cookiePrefix: "latch",
      defaultCookieAttributes: { httpOnly: true, sameSite: "strict" },
      useSecureCookies: url.startsWith("https:"),
      ipAddress: { ipAddressHeaders: ["x-forwarded-for"] },
    },
    hooks: {
      after: createAuthMiddleware(async (context) => {
        if (context.path !== "/sign-in/email") return;
        const email = String(context.body?.email ?? "");
        await append(db, email, context.context.newSession ? "signed-in" : "sign-in-refused", {});
      }),
    },
  });
}

type Auth = Awaited<ReturnType<typeof makeAuth>>;
const shared = globalThis as { latchAuth?: Promise<Auth> };

/** Sign-in, over the same database. */
export function auth(): Promise<Auth> {
  return (shared.latchAuth ??= makeAuth());
}
