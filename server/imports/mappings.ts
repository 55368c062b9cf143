import { type Mapping, mappingSchema } from "@/core/imports/mapping";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";

/** A mapping that was kept, and of which store its reports are. */
export interface SavedMapping {
  name: string;
  source: string;
  title: string;
  mapping: Mapping;
  savedBy: string;
  savedAt: number;
}

export async function savedMappings(db: Reads): Promise<SavedMapping[]> {
  const rows = await db.selectFrom("import_mapping").selectAll().orderBy("name").execute();
  return rows.map(({ name, source, title, body, saved_by, saved_at }) => ({
    ...{ name, source, title, savedBy: saved_by, savedAt: saved_at },
    mapping: mappingSchema.parse(JSON.parse(body)),
  }));
}

/** @throws {Problem} where there is none of that name */
export async function savedMapping(db: Reads, name: string): Promise<SavedMapping> {
  const found = (await savedMappings(db)).find((one) => one.name === name);
  if (found) return found;
  throw new Problem("unknown", `No mapping is called ${name}. Map a report’s columns under Estate, Imports first.`);
}

/** Keeps a mapping for the next report; one of the same name is replaced. */
export async function saveMapping(
  tx: Tx,
  { name, source, title, mapping }: Omit<SavedMapping, "savedBy" | "savedAt">,
  by: string,
): Promise<void> {
  const row = {
    ...{ name, source, title, body: JSON.stringify(mapping) },
    ...{ saved_by: by, saved_at: tx.clock.seconds() },
  };
  await tx
    .insertInto("import_mapping")
    .values(row)
    .onConflict((conflict) => conflict.column("name").doUpdateSet(row))
    .execute();
}

/** What was imported by it stays. */
export function removeMapping(db: Db, name: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    await savedMapping(tx, name);
    await tx.deleteFrom("import_mapping").where("name", "=", name).execute();
    await appendWithin(tx, actor, "mapping-removed", { mapping: name });
  });
}
