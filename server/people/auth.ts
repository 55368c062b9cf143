import { passkey } from "@better-auth/passkey";
import { betterAuth } from "better-auth";
import { APIError } from "better-auth/api";
import { genericOAuth, twoFactor } from "better-auth/plugins";
import { SIGN_IN_HOURS } from "@/contract/signIn";
import type { Reads } from "../platform/db/open";
import { SENDER } from "../platform/peers";
import type { Platform } from "../platform/platform";
import { guard } from "./guard";
import { providerOf } from "./singleSignOn";

/** Sign-in, over the database of an application, or within a transaction of it. */
export function makeAuth(app: Platform, within: Reads = app.db) {
  const { settings, secrets } = app;
  const { url, singleSignOn } = settings;
  const { origin, hostname } = new URL(url);
  return betterAuth({
    appName: "Tight Latch",
    database: { db: within, type: "sqlite" },
    baseURL: url,
    basePath: "/api/auth",
    trustedOrigins: [origin],
    secrets: secrets.ring.keys().map((key) => ({
      version: Number.parseInt(key.id, 16),
      value: secrets.keyFor("sessions", key).toString("base64"),
    })),
    telemetry: { enabled: false },
    logger: { level: "error" },
    // The package logs nothing: a wrong password becomes a ledger entry, and a refusal goes to whoever asked.
    onAPIError: { onError: (error) => void (isOurFault(error) && console.error(error)) },
    // Nobody signs up: an administrator is made at the first run, others by an administrator. How long a password has
    // to be depends on a second factor, and is looked at in `guard`.
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 8 },
    user: {
      additionalFields: {
        role: { type: "string", input: false, defaultValue: "auditor" },
        zone: { type: "string", input: false, defaultValue: "UTC" },
        dateStyle: { type: "string", input: false, required: false },
        weekStart: { type: "number", input: false, required: false },
      },
    },
    account: { encryptOAuthTokens: true, accountLinking: { trustedProviders: ["house"] } },
    // A session lasts this many hours at most; `sessions` ends unused ones earlier.
    session: { expiresIn: SIGN_IN_HOURS * 3_600, disableSessionRefresh: true, freshAge: 15 * 60 },
    // Attempts are counted in `guard`.
    rateLimit: { enabled: false },
    advanced: {
      cookiePrefix: "latch",
      defaultCookieAttributes: { httpOnly: true, sameSite: "strict" },
      // Somebody who returns from a provider comes from another site.
      cookies: { state: { attributes: { sameSite: "lax" } } },
      useSecureCookies: url.startsWith("https:"),
      ipAddress: { ipAddressHeaders: [SENDER] },
    },
    plugins: [
      twoFactor({ issuer: "Tight Latch", backupCodeOptions: { storeBackupCodes: "encrypted" } }),
      passkey({
        rpName: "Tight Latch",
        rpID: hostname,
        origin,
        authenticatorSelection: { residentKey: "required", userVerification: "required" },
        // The package asks for it, but doesn't check whether it was given.
        authentication: {
          afterVerification: async ({ verification }) => {
            if (!verification.authenticationInfo.userVerified)
              throw new APIError("UNAUTHORIZED", { message: "The passkey did not ask who uses it." });
          },
        },
      }),
      ...(singleSignOn ? [genericOAuth({ config: [providerOf(app, singleSignOn)] })] : []),
      // Last, because it needs what the others have added to a request.
      guard(app),
    ],
  });
}

function isOurFault(error: unknown): boolean {
  return !(error instanceof APIError) || error.status === "INTERNAL_SERVER_ERROR";
}

export type Auth = ReturnType<typeof makeAuth>;
