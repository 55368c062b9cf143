import type { Reads } from "./db/open";

/** What is remembered under a name for a person; for nobody ("") it is the application's own. */
export async function savedText(db: Reads, person: string, name: string): Promise<string | undefined> {
  const row = await db
    .selectFrom("setting")
    .select("body")
    .where("person", "=", person)
    .where("name", "=", name)
    .executeTakeFirst();
  return row?.body;
}

export async function saveText(db: Reads, person: string, name: string, body: string) {
  await db
    .insertInto("setting")
    .values({ person, name, body })
    .onConflict((conflict) => conflict.columns(["person", "name"]).doUpdateSet({ body }))
    .execute();
}
