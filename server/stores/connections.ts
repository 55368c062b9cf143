import type { Selectable } from "kysely";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { isLoopback } from "../platform/loopback";
import { Problem } from "../platform/problem";
import { resealEach } from "../platform/resealing";
import { appendWithin } from "../records/ledger/ledger";
import type { ConnectionTable } from "../platform/db/schema";
import { bodiesOf, sourcesOfStores, tellAgain } from "../records/facts";
import { setSourceKind } from "../records/names";
import type { StoreAdapter } from "./adapter";
import { httpStore } from "./httpStore";
import type { Platform } from "../platform/platform";

export type Connection = Selectable<ConnectionTable>;

/** Adds a store to be read, or changes where it is; what was read of it stays. */
export async function connect(
  app: Platform,
  given: { id: string; name: string; url: string; key: string },
  actor: string,
) {
  const { id, name, url } = given;
  checkWay(app, url);
  const key = app.secrets.seal(given.key);
  await writing(app.db, async (tx) => {
    await tx
      .insertInto("connection")
      .values({ id, name, url, key })
      .onConflict((conflict) => conflict.column("id").doUpdateSet({ name, url, key }))
      .execute();
    // One that was disconnected is read again.
    await setSourceKind(tx, id, "store");
    for (const { key } of await bodiesOf(tx, id, ["store"])) await tellAgain(tx, "store", key);
    await appendWithin(tx, actor, "store-connected", { store: id, name, url });
  });
}

/** The key is sent with every request to the store. @throws {Problem} if others could read it on the way */
export function checkWay({ settings }: Platform, url: string) {
  const { protocol, hostname } = new URL(url);
  if (protocol === "https:" || isLoopback(hostname) || settings.plainStores) return;
  throw new Problem(
    "bad",
    `${url}: its key could be read on the way. Use https, or set LATCH_PLAIN_STORES=yes if the network is safe.`,
  );
}

/** @returns how many keys of stores were sealed anew */
export async function resealConnections({ secrets }: Platform, tx: Tx): Promise<number> {
  const kept = await tx.selectFrom("connection").select(["id", "key as sealed"]).execute();
  return resealEach(secrets, kept, (id, key) =>
    tx.updateTable("connection").set({ key }).where("id", "=", id).execute(),
  );
}

export function connections(db: Reads): Promise<Connection[]> {
  return db.selectFrom("connection").selectAll().orderBy("name").execute();
}

/** By the id that a store has here: the connection by which it is read. */
export async function connectionsByStore(db: Db): Promise<Map<string, Connection>> {
  const all = await connections(db);
  const byStore = [...(await sourcesOfStores(db))].map(
    ([store, source]) => [store, all.find(({ id }) => id === source)] as const,
  );
  return new Map(byStore.filter((one): one is [string, Connection] => one[1] !== undefined));
}

export function adapterFor(app: Platform, connection: Connection): StoreAdapter {
  checkWay(app, connection.url);
  return httpStore(connection.name, connection.url, app.secrets.unseal(connection.key));
}
