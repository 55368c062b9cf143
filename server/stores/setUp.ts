import { shownName } from "@/core/text/shown";
import type { StoreFound } from "@/contract/stores";
import { ZodError } from "zod";
import { type Db, writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { bodiesOf, tellAgain } from "../records/facts";
import { setSourceKind } from "../records/names";
import { appendWithin } from "../records/ledger/ledger";
import { StoreRefusal, StoreTrouble } from "./adapter";
import { checkWay } from "./connections";
import { httpStore } from "./httpStore";

/** Asks a store what it is, and for its first records. @throws {Problem} saying what it answered instead */
export async function findStore(app: Platform, { url, key }: { url: string; key: string }): Promise<StoreFound> {
  checkWay(app, url);
  const adapter = httpStore("The store", url, key);
  try {
    const { id, name, capabilities } = await adapter.describe();
    const { entries, isLast } = await adapter.read(0);
    return { id, name: shownName(name), capabilities, records: entries.length, isAll: isLast };
  } catch (error) {
    if (error instanceof StoreTrouble && error.kind === "unreached")
      throw new Problem("unreachable", `${error.message}. Check the address, and that the store is running.`);
    if (error instanceof StoreRefusal || error instanceof StoreTrouble)
      throw new Problem("unreachable", `The store refused: ${error.message} Check its key.`);
    if (error instanceof ZodError || error instanceof SyntaxError)
      throw new Problem("unreachable", "Whatever answers there isn’t a store that can be read. Check the address.");
    throw error;
  }
}

/** Has a store read from its beginning at its next reading. @throws {Problem} where none is connected by that id */
export function readAgain(db: Db, id: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { name } = await connectionOf(tx, id);
    await tx.updateTable("connection").set({ reads_again: 1 }).where("id", "=", id).execute();
    await appendWithin(tx, actor, "store-read-again", { store: id, name });
  });
}

/**
 * Forgets where a store is, and its key. What is known of it stays, as of its last reading; from now on it is a store
 * that people change by hand. @throws {Problem} where none is connected by that id
 */
export function disconnect(db: Db, id: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { name } = await connectionOf(tx, id);
    await tx.deleteFrom("connection").where("id", "=", id).execute();
    await setSourceKind(tx, id, "import");
    // Whether a store is read is judged by its record.
    for (const { key } of await bodiesOf(tx, id, ["store"])) await tellAgain(tx, "store", key);
    await appendWithin(tx, actor, "store-disconnected", { store: id, name });
  });
}

async function connectionOf(db: Pick<Db, "selectFrom">, id: string) {
  const connection = await db.selectFrom("connection").select("name").where("id", "=", id).executeTakeFirst();
  if (!connection) throw new Problem("unknown", `No store called ${id} is connected.`);
  return connection;
}
