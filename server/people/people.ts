import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import type { NewPerson, SignIn } from "@/contract/people";
import { ALLOWED } from "@/contract/operation";
import type { SignInRole } from "@/contract/roles";
import { faultIn } from "./passwords";

export async function hasPeople(db: Reads): Promise<boolean> {
  return (await db.selectFrom("user").select("id").limit(1).executeTakeFirst()) !== undefined;
}

/** Everybody who can sign in and sees the console, by name: those who can be notified and assigned things. */
export async function signIns(db: Db): Promise<SignIn[]> {
  return db.selectFrom("user").select(["name", "email"]).where("role", "in", ALLOWED.read).orderBy("name").execute();
}

export async function canSignIn(db: Reads, email: string): Promise<boolean> {
  return (await db.selectFrom("user").select("id").where("email", "=", email).executeTakeFirst()) !== undefined;
}

/** Whether somebody sees the console when they sign in: owners see only what is theirs. */
export async function seesConsole(db: Reads, email: string): Promise<boolean> {
  const user = await db.selectFrom("user").select("role").where("email", "=", email).executeTakeFirst();
  return user !== undefined && user.role !== "owner";
}

/** Addresses of all administrators. */
export async function administrators(db: Reads): Promise<string[]> {
  const rows = await db.selectFrom("user").select("email").where("role", "=", "administrator").execute();
  return rows.map(({ email }) => email);
}

/** Who makes an account: somebody here, not its future holder. */
const PROVISIONED = { method: "email-password" } as const;

/** Somebody who will be able to sign in: with a password's hash, or with no password yet. */
interface Added {
  name: string;
  email: string;
  role: SignInRole;
  password: string | null;
}

/** @throws {Problem} if the password is a bad one */
export async function passwordHash(app: Platform, { name, email, password }: NewPerson): Promise<string> {
  const fault = await faultIn(password, { name, email, hasFactor: false });
  if (fault) throw new Problem("bad", fault);
  const { makeAuth } = await import("./auth");
  return (await makeAuth(app).$context).password.hash(password);
}

/** Makes an account and its ledger entry. @throws {Problem} if the address has one already */
export async function addPersonWithin(app: Platform, tx: Tx, added: Added, actor: string): Promise<string> {
  const { name, email, role, password } = added;
  if (await canSignIn(tx, email)) throw new Problem("conflict", `${email} has an account already.`);
  const { makeAuth } = await import("./auth");
  // In the same transaction, so that the account and its entry are kept together.
  const { internalAdapter } = await makeAuth(app, tx).$context;
  const user = await internalAdapter.createUser({ name, email, emailVerified: true, role }, PROVISIONED);
  await internalAdapter.linkAccount({
    userId: user.id,
    accountId: user.id,
    providerId: "credential",
    password: password ?? undefined,
  });
  await appendWithin(tx, actor, password === null ? "person-invited" : "person-added", { email, role });
  return user.id;
}

/** Makes an account that can sign in. @throws {Problem} if the address has one already, or the password is a bad one */
export async function addPerson(app: Platform, person: NewPerson, role: SignInRole, actor: string): Promise<void> {
  const password = await passwordHash(app, person);
  await writing(app.db, (tx) => addPersonWithin(app, tx, { ...person, role, password }, actor));
}
