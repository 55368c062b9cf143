import { z } from "zod";
import { sql } from "kysely";
import { type Db, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { appendWithin } from "../records/ledger";
import type { SignIn } from "@/contract/signIn";
import type { SignInRole } from "@/contract/roles";

/** Shorter ones are refused: NIST SP 800-63B-4 asks for 15 characters where a password stands alone. */
const MIN_PASSWORD = 15;

export const newPersonSchema = z.object({
  name: z.string().trim().min(1, "Give a name."),
  email: z.email("Give an e-mail address.").toLowerCase(),
  password: z.string().min(MIN_PASSWORD, `A password has at least ${MIN_PASSWORD} characters.`).max(128),
});
export type NewPerson = z.infer<typeof newPersonSchema>;

export async function hasPeople(db: Db): Promise<boolean> {
  return (await db.selectFrom("user").select("id").limit(1).executeTakeFirst()) !== undefined;
}

/** Everybody who can sign in and sees the console, by name: who can be told of things and given them. */
export async function signIns(db: Db): Promise<SignIn[]> {
  const { rows } = await sql<SignIn>`select name, email from "user"
    where role in ('administrator', 'auditor') order by name`.execute(db);
  return rows;
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
