import { betterAuth } from "better-auth";
import { APIError, createAuthMiddleware } from "better-auth/api";
import type { Db, Reads } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { append, countEntries } from "../records/ledger";

/** Sign-in, over the database of an application, or within a transaction of it. */
export function makeAuth({ db, settings, secrets }: Platform, within: Reads = db) {
  const { url } = settings;
  return betterAuth({
    database: { db: within, type: "sqlite" },
    baseURL: url,
    basePath: "/api/auth",
    trustedOrigins: [url],
    secrets: secrets.ring.keys().map((key) => ({
      version: Number.parseInt(key.id, 16),
      value: secrets.keyFor("sessions", key).toString("base64"),
    })),
    telemetry: { enabled: false },
    // A wrong password is an entry in the ledger.
    logger: { level: "error" },
    // Nobody signs up: an administrator is made at the first run, others by an administrator.
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 15 },
    user: { additionalFields: { role: { type: "string", input: false, defaultValue: "auditor" } } },
    // What our own pages never ask for is not there to be asked for.
    disabledPaths: ["/update-user", "/change-email", "/delete-user", "/request-password-reset", "/reset-password"],
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
      before: createAuthMiddleware(async (context) => {
        if (context.path !== "/sign-in/email") return;
        if (await hasTooManyRefusals(db, addressIn(context.body)))
          throw new APIError("TOO_MANY_REQUESTS", { message: "Too many tries. Wait a quarter of an hour." });
      }),
      after: createAuthMiddleware(async (context) => {
        if (context.path !== "/sign-in/email") return;
        await append(db, addressIn(context.body), context.context.newSession ? "signed-in" : "sign-in-refused", {});
      }),
    },
  });
}

function addressIn(body: unknown): string {
  const email = (body as { email?: unknown } | undefined)?.email;
  return typeof email === "string" ? email.trim().toLowerCase().slice(0, 254) : "";
}

const MOST_REFUSALS = 10;
const WITHIN_S = 15 * 60;

/** Counts wrong tries for one address wherever they came from: a limit by sender alone could be walked round. */
async function hasTooManyRefusals(db: Db, email: string): Promise<boolean> {
  return (await countEntries(db, "sign-in-refused", email, db.clock.seconds() - WITHIN_S)) >= MOST_REFUSALS;
}

export type Auth = ReturnType<typeof makeAuth>;
