import { v7 as uuid } from "uuid";
import type { z } from "zod";
import type { savedQueryBody } from "@/contract/register";
import type { SavedQuery } from "@/core/register/saved";
import type { Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import type { Asking } from "../engine/client";

/** Somebody's own queries and those for all, by name, each with how many shares it finds now. */
export async function savedQueriesOf(app: Asking, person: string, past?: Seconds): Promise<SavedQuery[]> {
  const rows = await app.db
    .selectFrom("saved_query")
    .selectAll()
    .where((eb) => eb.or([eb("owner", "=", person), eb("for_all", "=", 1)]))
    .orderBy("name")
    .orderBy("id")
    .execute();
  const queries = rows.map(({ view }) => new URLSearchParams(view).get("q") ?? "");
  const counts = await app.engine.ask("counts", { queries }, past);
  return rows.map(({ id, owner, name, view, for_all }, i) => {
    return { id, name, view, isOwn: owner === person, forAll: for_all === 1, count: counts[i] };
  });
}

/** Keeps a query; one of the same name that the same person kept is replaced. */
export async function saveQuery(db: Db, person: string, { name, view, forAll }: z.infer<typeof savedQueryBody>) {
  const row = { view, for_all: Number(forAll), made_at: db.clock.text() };
  await db
    .insertInto("saved_query")
    .values({ id: uuid(), owner: person, name, ...row })
    .onConflict((conflict) => conflict.columns(["owner", "name"]).doUpdateSet(row))
    .execute();
}

/** @returns whether there was such a one of theirs */
export async function dropQuery(db: Db, person: string, id: string): Promise<boolean> {
  const { numDeletedRows } = await db
    .deleteFrom("saved_query")
    .where("id", "=", id)
    .where("owner", "=", person)
    .executeTakeFirst();
  return numDeletedRows > 0;
}
