import { APIError } from "better-auth/api";
import type { GenericOAuthConfig } from "better-auth/plugins";
import { ROLES, type SignInRole } from "@/contract/roles";
import { mailAddress } from "@/core/estate/mailAddress";
import { writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import type { SingleSignOn } from "../platform/settings";
import { appendWithin } from "../records/ledger/ledger";

/** The organisation's OpenID Connect provider: whoever signs in there can sign in here if they have an account. */
export function providerOf(app: Platform, given: SingleSignOn): GenericOAuthConfig {
  return {
    providerId: "house",
    name: given.name,
    discoveryUrl: `${given.issuer.replace(/\/$/, "")}/.well-known/openid-configuration`,
    requireIdTokenVerification: true,
    clientId: given.client,
    clientSecret: given.secret,
    scopes: ["openid", "email", "profile"],
    pkce: true,
    disableSignUp: true,
    mapProfileToUser: async (claims) => {
      await admit(app, given, claims);
      return {};
    },
  };
}

/** Admits addresses in the home domains that the provider vouches for, and takes their role from it if it gives one. */
async function admit(app: Platform, given: SingleSignOn, claims: Record<string, unknown>) {
  const parsed = mailAddress.toLowerCase().safeParse(claims.email);
  const isVouchedFor = claims.email_verified === true || claims.emailVerified === true;
  const domain = parsed.data?.split("@")[1] ?? "";
  if (!parsed.success || !isVouchedFor || !given.domains.includes(domain))
    throw new APIError("FORBIDDEN", { message: "The provider doesn’t vouch for an address at one of our domains." });
  if (given.roleClaim === undefined) return;
  const role = roleIn(claims[given.roleClaim]);
  if (!role) throw new APIError("FORBIDDEN", { message: "The provider gives you no role here." });
  await writing(app.db, async (tx) => {
    const { numUpdatedRows } = await tx
      .updateTable("user")
      .set({ role })
      .where("email", "=", parsed.data)
      .where("role", "!=", role)
      .executeTakeFirst();
    if (numUpdatedRows > 0n) await appendWithin(tx, "single sign-on", "role-changed", { email: parsed.data, role });
  });
}

/** The first of our roles, in order, that a claim names; a claim may be a text or a list of texts. */
function roleIn(claim: unknown): SignInRole | undefined {
  const named = Array.isArray(claim) ? claim : [claim];
  return ROLES.find((role) => named.includes(role));
}
