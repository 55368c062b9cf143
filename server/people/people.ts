import { type Db, type Reads, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { appendWithin } from "../records/ledger";
import type { NewPerson, SignIn } from "@/contract/people";
import { ALLOWED } from "@/contract/operation";
import type { SignInRole } from "@/contract/roles";

export async function hasPeople(db: Db): Promise<boolean> {
  return (await db.selectFrom("user").select("id").limit(1).executeTakeFirst()) !== undefined;
}

/** Everybody who can sign in and sees the console, by name: who can be told of things and given them. */
export async function signIns(db: Db): Promise<SignIn[]> {
  return db.selectFrom("user").select(["name", "email"]).where("role", "in", ALLOWED.read).orderBy("name").execute();
}

export async function canSignIn(db: Reads, email: string): Promise<boolean> {
  return (await db.selectFrom("user").select("id").where("email", "=", email).executeTakeFirst()) !== undefined;
}

/** Addresses of all administrators. */
export async function administrators(db: Reads): Promise<string[]> {
  const rows = await db.selectFrom("user").select("email").where("role", "=", "administrator").execute();
  return rows.map(({ email }) => email);
}

/** By whom an account is made: somebody here, and not whoever will use it. */
const PROVISIONED = { method: "email-password" } as const;

/** Makes an account that can sign in. @throws {Error} if the address has one already */
export async function addPerson(app: Platform, person: NewPerson, role: SignInRole, actor: string): Promise<void> {
  const { name, email, password } = person;
  const { makeAuth } = await import("./auth");
  await writing(app.db, async (within) => {
    // Over the transaction, so that the account and its entry are kept together.
    const { internalAdapter, password: passwords } = await makeAuth(app, within).$context;
    const user = await internalAdapter.createUser({ name, email, emailVerified: true, role }, PROVISIONED);
    await internalAdapter.linkAccount({
      userId: user.id,
      accountId: user.id,
      providerId: "credential",
      password: await passwords.hash(password),
    });
    await appendWithin(within, actor, "person-added", { email, role });
  });
}
