import type { Estate } from "../core/estate/estate";
import { OUTSIDE_SQL, type OutsideRow, outsideShares } from "./outside";

/** The estate in a DuckDB database in memory; and the question asked of it, in the same SQL. */
export async function inDuckdb(estate: Estate): Promise<() => Promise<OutsideRow[]>> {
  // Loaded where it is wanted: what it takes up is not the engine's.
  const { DuckDBInstance } = await import("@duckdb/node-api");
  const connection = await (await DuckDBInstance.create(":memory:")).connect();
  await connection.run("create table item (id integer primary key, parent integer, inherits integer)");
  await connection.run(
    "create table share (id integer primary key, item integer, open integer, keyed integer, role integer, download integer, until bigint)",
  );
  await connection.run("create table audience (share integer, person integer, organisation integer)");
  const { items, principals } = estate;
  const item = await connection.createAppender("item");
  for (let slot = 0; slot < items.count; slot++) {
    for (const value of [slot, items.parent[slot], items.inherits[slot]]) item.appendInteger(value);
    item.endRow();
  }
  item.closeSync();
  const share = await connection.createAppender("share");
  const audience = await connection.createAppender("audience");
  for (const one of outsideShares(estate)) {
    for (const value of [one.id, one.item, one.open, one.keyed, one.role, one.download]) share.appendInteger(value);
    share.appendBigInt(BigInt(one.until));
    share.endRow();
    for (const person of one.people) {
      for (const value of [one.id, person, principals.organisationOf[person]]) audience.appendInteger(value);
      audience.endRow();
    }
  }
  share.closeSync();
  audience.closeSync();
  return async () => {
    const reader = await connection.runAndReadAll(OUTSIDE_SQL);
    return reader.getRowObjects() as unknown as OutsideRow[];
  };
}
