import { hashPassword } from "better-auth/crypto";
import { v7 as uuid } from "uuid";
import { z } from "zod";
import { sql } from "kysely";
import { type Db, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger";
import type { SignIn } from "@/contract/signIn";
import { ROLES } from "./auth";

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

/** Makes an account that can sign in. @throws {Error} if the address has one already */
export async function addPerson(db: Db, person: NewPerson, role: (typeof ROLES)[number], actor: string): Promise<void> {
  const id = uuid();
  const now = new Date().toISOString();
  const password = await hashPassword(person.password);
  await writing(db, async (within) => {
    await sql`insert into "user" ("id", "name", "email", "emailVerified", "createdAt", "updatedAt", "role")
      values (${id}, ${person.name}, ${person.email}, 1, ${now}, ${now}, ${role})`.execute(within);
    await sql`insert into "account" ("id", "accountId", "providerId", "userId", "password", "createdAt", "updatedAt")
      values (${uuid()}, ${id}, 'credential', ${id}, ${password}, ${now}, ${now})`.execute(within);
    await appendWithin(within, actor, "person-added", { email: person.email, role });
  });
}
