import type { BetterAuthPlugin } from "better-auth";
import { APIError, createAuthMiddleware, getSessionFromCtx } from "better-auth/api";
import { MIN_PASSWORD } from "@/contract/people";
import { SIGN_IN, type SignedInBy } from "@/contract/signIn";
import type { SignInRole } from "@/contract/roles";
import type { Counted } from "../platform/limits";
import type { Platform } from "../platform/platform";
import { networkOf, SENDER } from "../platform/peers";
import { Problem, type ProblemKind } from "../platform/problem";
import { checkFresh } from "../platform/rights";
import { append } from "../records/ledger/ledger";
import { browserCookie, KNOWN_BROWSER_S, knownBrowser, newBrowser } from "./browsers";
import { takeCode } from "./codes";
import { faultIn } from "./passwords";
import { needsFactor, policy } from "./policy";
import { beginSession, endSessions, goOn } from "./sessions";

type Context = Parameters<Parameters<typeof createAuthMiddleware>[0]>[0];
type Guard = (app: Platform, c: Context, passing: Passing) => Promise<void>;

/** What is known about a sign-in request while it is handled. */
interface Passing {
  /** The attempt counted for it, to be given back if it succeeds. */
  counted: Counted[];
  /** Who is signing in, as far as is known. */
  email: string;
  /** The session that the request came with. */
  session?: { id: string; userId: string; email: string; role: SignInRole; by: SignedInBy; signedInAt: number };
}

/** For each of the package's addresses that begin a session: the method of signing in. */
const BY: Record<string, SignedInBy> = {
  "/sign-in/email": "password",
  "/two-factor/verify-totp": "code",
  "/two-factor/verify-backup-code": "recovery-code",
  "/passkey/verify-authentication": "passkey",
  "/callback/:id": "single-sign-on",
};

/** Requests from outside; the application's own calls aren't checked. */
const PATHS = new Set<string>(Object.values(SIGN_IN).map(({ path }) => path));

/** Checks made before the package does anything. */
const BEFORE: Record<string, Guard> = {
  "/sign-in/email": beforePassword,
  "/two-factor/verify-totp": beforeCode,
  "/two-factor/verify-backup-code": beforeCode,
  "/two-factor/enable": beforeOwnPassword,
  "/two-factor/generate-backup-codes": beforeOwnPassword,
  "/two-factor/disable": beforeNoFactor,
  "/change-password": beforeNewPassword,
  "/passkey/delete-passkey": beforeNoPasskey,
};

/** Ledger entries for changes to how somebody signs in. */
const CHANGED = {
  "/change-password": "password-changed",
  "/two-factor/disable": "codes-removed",
  "/two-factor/generate-backup-codes": "recovery-codes-made",
  "/passkey/verify-registration": "passkey-added",
  "/passkey/delete-passkey": "passkey-removed",
} as const;

/** What stands before and after the sign-in package: what may be tried how often, and what the ledger says of it. */
export function guard(app: Platform): BetterAuthPlugin {
  const passing = new WeakMap<object, Passing>();
  const matcher = ({ path }: { path?: string }) => PATHS.has(path ?? "");
  const before = createAuthMiddleware(async (c) => {
    const one: Passing = { counted: [], email: "", session: await sessionIn(app, c) };
    if (c.headers) passing.set(c.headers, one);
    try {
      await BEFORE[c.path]?.(app, c, one);
    } catch (error) {
      throw error instanceof Problem ? refusal(error) : error;
    }
  });
  const after = createAuthMiddleware(async (c) => {
    const one = (c.headers && passing.get(c.headers)) ?? { counted: [], email: "" };
    await told(app, c, one);
  });
  return { id: "latch-guard", hooks: { before: [{ matcher, handler: before }], after: [{ matcher, handler: after }] } };
}

const STATUS: Partial<Record<ProblemKind, "TOO_MANY_REQUESTS" | "FORBIDDEN">> = {
  "too-many": "TOO_MANY_REQUESTS",
  "sign-in-again": "FORBIDDEN",
};

function refusal({ kind, message, retryAfter }: Problem): APIError {
  const headers = retryAfter === undefined ? undefined : { "Retry-After": String(retryAfter) };
  return new APIError(STATUS[kind] ?? "BAD_REQUEST", { message, kind }, headers);
}

async function sessionIn(app: Platform, c: Context): Promise<Passing["session"]> {
  if (!c.headers?.get("cookie")) return undefined;
  const found = await getSessionFromCtx(c).catch(() => null);
  if (!found) return undefined;
  const own = await goOn(app.db, found.session.id, true);
  // The package doesn't know that an unused session has ended; signing in again needs none.
  if (!own && !BY[c.path]) throw new APIError("UNAUTHORIZED", { message: "Sign in first." });
  if (!own) return undefined;
  const { id: userId, email } = found.user;
  return {
    id: found.session.id,
    userId,
    email,
    role: (found.user as unknown as { role: SignInRole }).role,
    by: own.by,
    signedInAt: Math.floor(found.session.createdAt.getTime() / 1_000),
  };
}

/** A password is counted before it is checked, so that sending many at once doesn't get more of them checked. */
async function beforePassword(app: Platform, c: Context, passing: Passing) {
  if ((await policy(app.db)).passwordsOff)
    throw new Problem("bad", "Nobody signs in with a password here. Use single sign-on.");
  const email = addressIn(c.body);
  passing.email = email;
  const browser = knownBrowser(app, c.getCookie(browserCookie(app.settings)), email);
  passing.counted = browser
    ? [["browser", browser]]
    : [
        ["account", email],
        ["network", networkOf(c.headers?.get(SENDER) ?? "")],
      ];
  await app.limits.count(passing.counted);
}

/** A code is somebody's who has given their password, or who has just been shown what makes their codes. */
async function beforeCode(app: Platform, c: Context, passing: Passing) {
  const userId = (await pendingUser(c)) ?? passing.session?.userId;
  if (userId === undefined) return;
  const user = await c.context.internalAdapter.findUserById(userId);
  passing.email = user?.email ?? "";
  passing.counted = [["code", userId]];
  await app.limits.count(passing.counted);
  const code = (c.body as { code?: unknown } | undefined)?.code;
  if (c.path !== "/two-factor/verify-totp" || typeof code !== "string") return;
  if (!(await takeCode(app.db, userId, code.slice(0, 20))))
    throw new Problem("bad", "That code has already been tried. Wait for the next one.");
}

async function pendingUser(c: Context): Promise<string | undefined> {
  const { name } = c.context.createAuthCookie("two_factor");
  const identifier = await c.getSignedCookie(name, c.context.secret);
  return identifier ? (await c.context.internalAdapter.findVerificationValue(identifier))?.value : undefined;
}

/** Somebody who has stolen a session can't guess its password either. */
async function beforeOwnPassword(app: Platform, _: Context, passing: Passing) {
  if (!passing.session) return;
  passing.counted = [["code", passing.session.userId]];
  await app.limits.count(passing.counted);
}

/** Removing a passkey asks for no password, so it needs a recent sign-in. */
async function beforeNoPasskey(_: Platform, __: Context, { session }: Passing) {
  if (session) checkFresh(session);
}

/** Without a second factor a password has to be longer. */
async function beforeNoFactor(app: Platform, c: Context, passing: Passing) {
  const { session } = passing;
  if (!session) return;
  if (await needsFactor(app.db, session.role))
    throw new Problem("bad", "Your role needs a second factor. Add a passkey and sign in with it.");
  const password = (c.body as { password?: unknown } | undefined)?.password;
  if (typeof password === "string" && [...password].length < MIN_PASSWORD)
    throw new Problem("bad", `Without codes, your password needs ${MIN_PASSWORD} characters: change it first.`);
  await beforeOwnPassword(app, c, passing);
}

async function beforeNewPassword(app: Platform, c: Context, passing: Passing) {
  const { session } = passing;
  const password = (c.body as { newPassword?: unknown } | undefined)?.newPassword;
  const user = session && (await c.context.internalAdapter.findUserById(session.userId));
  if (!user || typeof password !== "string") return;
  const hasFactor = Boolean((user as { twoFactorEnabled?: unknown }).twoFactorEnabled);
  const fault = await faultIn(password, { name: user.name, email: user.email, hasFactor });
  if (fault) throw new Problem("bad", fault);
  await beforeOwnPassword(app, c, passing);
}

/** Records the result. */
async function told(app: Platform, c: Context, { session, counted, email }: Passing) {
  const begun = c.context.newSession;
  const by = BY[c.path];
  if (begun) {
    await app.limits.giveBack(counted);
    await beginSession(app.db, begun.session.id, by ?? session?.by ?? "password");
    if (session && session.id !== begun.session.id) await endSessions(app.db, session.userId, { only: session.id });
    if (by === "code" && session) await append(app.db, begun.user.email, "codes-added", {});
    else if (by) await signedIn(app, c, begun.user.email, by);
  } else if (c.context.returned instanceof APIError) {
    if (by && email !== "") await append(app.db, email, "sign-in-refused", { by });
    return;
  } else await app.limits.giveBack(counted);
  const kind = CHANGED[c.path as keyof typeof CHANGED];
  if (kind && session) await append(app.db, session.email, kind, {});
}

async function signedIn(app: Platform, c: Context, email: string, by: SignedInBy) {
  await append(app.db, email, "signed-in", { by });
  const { url } = app.settings;
  c.setCookie(browserCookie({ url }), newBrowser(app, email), {
    ...{ httpOnly: true, sameSite: "strict", path: "/", maxAge: KNOWN_BROWSER_S },
    secure: url.startsWith("https:"),
  });
}

function addressIn(body: unknown): string {
  const email = (body as { email?: unknown } | undefined)?.email;
  return typeof email === "string" ? email.trim().toLowerCase().slice(0, 254) : "";
}
