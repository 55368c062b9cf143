import type { Account, Invitation, Self, Welcome } from "@/contract/people";
import type { SignInRole } from "@/contract/roles";
import type { SignedInBy } from "@/contract/signIn";
import type { DateSettings } from "@/core/time/style";
import { rfc3339 } from "@/core/time/instant";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import type { Actor } from "../platform/serving";
import { appendWithin } from "../records/ledger/ledger";
import { addPersonWithin } from "./people";
import { needsFactor } from "./policy";
import { endSessions, sessionsOf } from "./sessions";
import { sendWelcome } from "./welcome";

/** Everybody who can sign in, by name. */
export async function accounts(db: Db): Promise<Account[]> {
  const users = await db
    .selectFrom("user")
    .select(["id", "name", "email", "role", "twoFactorEnabled"])
    .select((eb) => [
      eb
        .selectFrom("account")
        .select((one) => one.fn.countAll<number>().as("count"))
        .whereRef("account.userId", "=", "user.id")
        .where("account.password", "is not", null)
        .as("passwords"),
      eb
        .selectFrom("passkey")
        .select((one) => one.fn.countAll<number>().as("count"))
        .whereRef("passkey.userId", "=", "user.id")
        .as("passkeys"),
      eb
        .selectFrom("session")
        .select((one) => one.fn.countAll<number>().as("count"))
        .whereRef("session.userId", "=", "user.id")
        .where("session.expiresAt", ">", new Date().toISOString())
        .as("sessions"),
      eb
        .selectFrom("session")
        .select((one) => one.fn.max("createdAt").as("at"))
        .whereRef("session.userId", "=", "user.id")
        .as("lastSignedIn"),
    ])
    .orderBy("name")
    .execute();
  return users.map(({ twoFactorEnabled, passwords, passkeys, sessions, lastSignedIn, ...user }) => ({
    ...user,
    hasPassword: Number(passwords) > 0,
    hasCodes: twoFactorEnabled === 1,
    passkeys: Number(passkeys),
    sessions: Number(sessions),
    lastSignedIn: lastSignedIn === null ? null : wholeSeconds(lastSignedIn),
  }));
}

/** Makes an account whose holder chooses a password by the address that is answered. */
export async function invite(app: Platform, { name, email, role }: Invitation, actor: string): Promise<Welcome> {
  const id = await writing(app.db, (tx) => addPersonWithin(app, tx, { name, email, role, password: null }, actor));
  return sendWelcome(app, id);
}

/** Changes what somebody may do; what they no longer may is refused from the next request on. */
export function setRole(db: Db, id: string, role: SignInRole, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { email } = await somebodyElse(tx, id, actor);
    await tx.updateTable("user").set({ role }).where("id", "=", id).execute();
    await checkAdministrators(tx);
    await appendWithin(tx, actor, "role-changed", { email, role });
  });
}

/** Removes an account and its sessions. The ledger still says what its holder did. */
export function removeAccount(db: Db, id: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { email, role } = await somebodyElse(tx, id, actor);
    await tx.deleteFrom("user").where("id", "=", id).execute();
    await checkAdministrators(tx);
    await appendWithin(tx, actor, "person-removed", { email, role });
  });
}

/** Ends somebody's password and all their sessions. @returns the address by which they choose another */
export async function resetPassword(app: Platform, id: string, actor: string): Promise<Welcome> {
  await writing(app.db, async (tx) => {
    const { email } = await account(tx, id);
    await tx
      .updateTable("account")
      .set({ password: null, updatedAt: new Date().toISOString() })
      .where("userId", "=", id)
      .where("providerId", "=", "credential")
      .execute();
    await endSessions(tx, id);
    await appendWithin(tx, actor, "password-reset", { email });
  });
  return sendWelcome(app, id);
}

/** Ends somebody's passkeys and codes, for when they have lost them, and their sessions. */
export function resetFactors(db: Db, id: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { email } = await account(tx, id);
    await tx.deleteFrom("twoFactor").where("userId", "=", id).execute();
    await tx.deleteFrom("passkey").where("userId", "=", id).execute();
    await tx.updateTable("user").set({ twoFactorEnabled: 0 }).where("id", "=", id).execute();
    await endSessions(tx, id);
    await appendWithin(tx, actor, "factors-removed", { email });
  });
}

/** @returns how many have ended */
export function endSessionsOf(db: Db, id: string, actor: string, which: { only?: string; except?: string } = {}) {
  return writing(db, async (tx) => {
    const { email } = await account(tx, id);
    const ended = await endSessions(tx, id, which);
    if (ended > 0) await appendWithin(tx, actor, "sessions-ended", { email, ended });
    return ended;
  });
}

/** What somebody sees of their own account. */
export async function self(db: Db, actor: Actor): Promise<Self> {
  const { email, name, role, dates, userId } = actor;
  const mine = (await accounts(db)).find(({ id }) => id === userId);
  const passkeys = await db
    .selectFrom("passkey")
    .select(["id", "name", "createdAt"])
    .where("userId", "=", userId)
    .orderBy("createdAt")
    .execute();
  const sessions = await sessionsOf(db, userId);
  return {
    ...{ name, email, role, dates },
    ...{ hasPassword: mine?.hasPassword ?? false, hasCodes: mine?.hasCodes ?? false },
    needsFactor: await needsFactor(db, role),
    passkeys: passkeys.map((one) => ({
      id: one.id,
      name: one.name ?? "Passkey",
      addedAt: wholeSeconds(one.createdAt ?? new Date(0).toISOString()),
    })),
    sessions: sessions.map((one) => ({
      ...{ id: one.id, by: (one.by ?? "password") as SignedInBy },
      ...{ address: one.ipAddress ?? "", browser: one.userAgent ?? "" },
      startedAt: wholeSeconds(one.createdAt),
      usedAt: one.usedAt === null ? wholeSeconds(one.createdAt) : rfc3339(one.usedAt),
      isThis: one.id === actor.sessionId,
    })),
  };
}

export function setSelf(db: Db, { userId, email }: Actor, given: { name: string }): Promise<void> {
  return writing(db, async (tx) => {
    await tx.updateTable("user").set(given).where("id", "=", userId).execute();
    await appendWithin(tx, email, "own-account-set", given);
  });
}

export function setDates(db: Db, { userId, email }: Actor, { zone, style, weekStart }: DateSettings): Promise<void> {
  return writing(db, async (tx) => {
    await tx.updateTable("user").set({ zone, dateStyle: style, weekStart }).where("id", "=", userId).execute();
    await appendWithin(tx, email, "own-dates-set", { zone, style, weekStart });
  });
}

/** The id of whoever has an address. @throws {Problem} where nobody has it */
export async function accountOf(db: Reads, email: string): Promise<string> {
  const user = await db.selectFrom("user").select("id").where("email", "=", email.toLowerCase()).executeTakeFirst();
  if (!user) throw new Problem("unknown", `Nobody signs in as ${email}.`);
  return user.id;
}

async function account(db: Reads, id: string) {
  const user = await db.selectFrom("user").select(["email", "role"]).where("id", "=", id).executeTakeFirst();
  if (!user) throw new Problem("unknown", "That account no longer exists. Reload the page.");
  return user;
}

/** Nobody can lock themselves out: only others could let them in again. */
async function somebodyElse(tx: Tx, id: string, actor: string) {
  const user = await account(tx, id);
  if (user.email === actor)
    throw new Problem("conflict", "You can’t do that to your own account: ask another administrator.");
  return user;
}

async function checkAdministrators(tx: Tx) {
  const left = await tx.selectFrom("user").select("id").where("role", "=", "administrator").executeTakeFirst();
  if (!left)
    throw new Problem("conflict", "They are the only administrator. Make somebody else an administrator first.");
}

const wholeSeconds = (text: string) => rfc3339(Math.floor(Date.parse(text) / 1_000));
