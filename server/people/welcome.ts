import { createHash } from "node:crypto";
import type { SignIn, Welcome } from "@/contract/people";
import { DAY, rfc3339 } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { signed, subjectOf } from "../platform/signed";
import { mailBy } from "../messages/sending";
import { channelsOf } from "../messages/channels";
import { appendWithin } from "../records/ledger/ledger";
import { faultIn } from "./passwords";
import { endSessions } from "./sessions";

const HOLDS_S = 3 * DAY;

/** Makes the address by which somebody chooses a password, and mails it to them where a mail server is set. */
export async function sendWelcome(app: Platform, userId: string): Promise<Welcome> {
  const until = app.clock.seconds() + HOLDS_S;
  const subject = JSON.stringify([userId, await stateOf(app.db, userId)]);
  const address = `${app.settings.url}/welcome#${signed(app, "welcome", subject, until)}`;
  return { address, until: rfc3339(until), ...(await mailed(app, userId, address, until)) };
}

async function mailed(app: Platform, userId: string, address: string, until: number) {
  const { mail } = await channelsOf(app);
  if (!mail) return { isMailed: false, mailProblem: null };
  const { email, name } = await userOf(app.db, userId);
  const text = [
    `${name},`,
    `choose a password for Tight Latch at this address. It works once, until ${rfc3339(until)}:`,
    address,
    "If you didn’t expect this mail, ask whoever runs Tight Latch.",
  ].join("\n\n");
  try {
    await mailBy(mail, { to: email, subject: "Choose your password for Tight Latch", text });
    return { isMailed: true, mailProblem: null };
  } catch (error) {
    return { isMailed: false, mailProblem: (error as Error).message };
  }
}

/** Whom an address was made for. @throws {Problem} if it isn't ours or has been used */
export async function welcomed(app: Platform, token: string, network: string): Promise<SignIn> {
  const { name, email } = await userOf(app.db, await userAt(app, app.db, token, network));
  return { name, email };
}

/** Sets a password by such an address, which is then used up, and ends any sessions. */
export async function choosePassword(app: Platform, token: string, password: string, network: string): Promise<void> {
  const user = await userOf(app.db, await userAt(app, app.db, token, network));
  const fault = await faultIn(password, { ...user, hasFactor: user.twoFactorEnabled === 1 });
  if (fault) throw new Problem("bad", fault);
  const { makeAuth } = await import("./auth");
  const passwords = (await makeAuth(app).$context).password;
  await writing(app.db, async (tx) => {
    const id = await userAt(app, tx, token, network);
    const hash = await passwords.hash(password);
    await tx
      .updateTable("account")
      .set({ password: hash, updatedAt: new Date().toISOString() })
      .where("userId", "=", id)
      .where("providerId", "=", "credential")
      .execute();
    await endSessions(tx, id);
    await appendWithin(tx, user.email, "password-chosen", {});
  });
}

async function userAt(app: Platform, db: Reads, token: string, network: string): Promise<string> {
  const subject = subjectOf(app, "welcome", token);
  if (subject !== null) {
    const [id, state] = JSON.parse(subject) as [string, string];
    if ((await stateOf(db, id)) === state) return id;
  } else await app.limits.count([["guess", network]]);
  throw new Problem("gone", "This address has already been used. Ask an administrator for a new one.");
}

/** Changes whenever a password is set or ended, so that an address made before is no longer valid. */
async function stateOf(db: Reads, userId: string): Promise<string> {
  const row = await db
    .selectFrom("account")
    .select(["password", "updatedAt"])
    .where("userId", "=", userId)
    .where("providerId", "=", "credential")
    .executeTakeFirst();
  return createHash("sha256").update(JSON.stringify(row)).digest("base64url").slice(0, 16);
}

async function userOf(db: Db, id: string) {
  const user = await db
    .selectFrom("user")
    .select(["name", "email", "twoFactorEnabled"])
    .where("id", "=", id)
    .executeTakeFirst();
  if (!user) throw new Problem("gone", "This account has been removed.");
  return user;
}
