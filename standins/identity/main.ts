import { generateKeyPairSync, randomBytes } from "node:crypto";
import { html } from "hono/html";
import Provider, { type Configuration } from "oidc-provider";
import { endWithParent } from "../parts/listen";

/** Somebody whom the provider knows, and what it says of them. */
export interface Known {
  email: string;
  name: string;
  isVerified?: boolean;
  role?: string;
}

interface Options {
  port: number;
  /** The one application that signs people in here: what it is known by, and where people are sent back to. */
  client: { id: string; secret: string; back: string };
  people: readonly Known[];
}

/** An OpenID Connect provider by which anybody is whomever they choose: a stand-in, for the demo and the tests. */
export function runIdentityProvider({ port, client, people }: Options) {
  const provider = new Provider(`http://127.0.0.1:${port}`, configuration(client, people));
  provider.use(async (ctx, next) => {
    const [, place, id, email] = ctx.path.split("/");
    if (place !== "choose") return next();
    if (email === undefined) {
      ctx.type = "html";
      ctx.body = String(await choice(id, people));
    } else {
      const login = { accountId: decodeURIComponent(email) };
      await provider.interactionFinished(ctx.req, ctx.res, { login });
      ctx.respond = false;
    }
  });
  endWithParent();
  return provider.listen(port, "127.0.0.1", () => console.log(`Identity provider listens on ${port}`));
}

function configuration({ id, secret, back }: Options["client"], people: readonly Known[]): Configuration {
  const { privateKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
  return {
    clients: [{ client_id: id, client_secret: secret, redirect_uris: [back] }],
    jwks: { keys: [{ ...privateKey.export({ format: "jwk" }), alg: "RS256", use: "sig" }] as never },
    cookies: { keys: [randomBytes(16).toString("hex")] },
    pkce: { required: () => true },
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_, interaction) => `/choose/${interaction.uid}` },
    claims: { openid: ["sub"], email: ["email", "email_verified"], profile: ["name", "role"] },
    // The client takes who somebody is from the token that is signed for it.
    conformIdTokenClaims: false,
    findAccount: (_, accountId) => {
      const person = people.find(({ email }) => email === accountId);
      return (
        person && {
          accountId,
          claims: () => ({
            sub: accountId,
            email: person.email,
            email_verified: person.isVerified ?? true,
            name: person.name,
            role: person.role,
          }),
        }
      );
    },
    // Nobody is asked what the application may know of them: it is the house's own.
    async loadExistingGrant(ctx) {
      const { client, session, provider } = ctx.oidc;
      const grant = new provider.Grant({ clientId: client!.clientId, accountId: session!.accountId });
      grant.addOIDCScope("openid email profile");
      await grant.save();
      return grant;
    },
  };
}

function choice(id: string, people: readonly Known[]) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <title>Who are you?</title>
      </head>
      <body>
        <h1>Who are you?</h1>
        <ul>
          ${people.map(
            ({ email, name }) =>
              html`<li><a href="/choose/${id}/${encodeURIComponent(email)}">${name}, ${email}</a></li>`,
          )}
        </ul>
      </body>
    </html>`;
}
