import Database from "better-sqlite3";
import type { Exposures } from "../core/access/exposure";
import { isLiveShare } from "../core/access/live";
import type { Estate } from "../core/estate/estate";
import type { EstateRecord } from "../core/estate/records";

/**
 * The same question asked of SQLite: outsiders and insiders by name, and whether an open link leads
 * there, for every item, over indexed tables. Group closures are given to it worked out.
 * @returns milliseconds of the query alone
 * @throws {Error} if the answers differ: a baseline that computes something else is none
 */
export function bySql(records: EstateRecord[], estate: Estate, ours: Exposures): number {
  const db = new Database(":memory:");
  db.exec(`
    create table item (id text primary key, parent text, inherits integer) without rowid;
    create table share (item text, audience text, person integer, outside integer);
  `);
  const addItem = db.prepare("insert into item values (?, ?, ?)");
  const addShare = db.prepare("insert into share values (?, ?, ?, ?)");
  db.transaction(() => {
    for (const record of records)
      if (record.type === "item") {
        addItem.run(record.id, record.parentId, record.inherits ? 1 : 0);
        if (record.ownerId) addShare.run(record.id, "people", estate.principals.findPerson(record.ownerId), 0);
      }
    for (const share of estate.allShares()) {
      if (!isLiveShare(estate, share, estate.asOf)) continue;
      if (share.audience !== "people") addShare.run(share.itemId, share.audience, null, null);
      else
        for (const person of share.people)
          addShare.run(share.itemId, "people", person, estate.people[person].insider ? 0 : 1);
    }
  })();
  db.exec("create index item_parent on item (parent, inherits); create index share_item on share (item); analyze;");
  const start = performance.now();
  const rows = db
    .prepare(
      `with recursive reach (item, audience, person, outside) as (
         select item, audience, person, outside from share
         union
         select item.id, reach.audience, reach.person, reach.outside
         from reach cross join item on item.parent = reach.item and item.inherits = 1)
       select item, sum(audience = 'open') > 0 as open,
         count(distinct case when outside = 1 then person end) as outsiders,
         count(distinct case when outside = 0 then person end) as insiders
       from reach group by item`,
    )
    .all() as { item: string; open: number; outsiders: number; insiders: number }[];
  const ms = performance.now() - start;
  const byItem = new Map(rows.map((row) => [row.item, row]));
  for (let position = 0; position < estate.tree.length; position++) {
    const id = estate.tree.idAt(position);
    const theirs = byItem.get(id) ?? { open: 0, outsiders: 0, insiders: 0 };
    const mine = ours.at(position)!;
    if (mine.outsiders !== theirs.outsiders || mine.insiders !== theirs.insiders || mine.open !== (theirs.open === 1))
      throw new Error(`SQLite and the engine differ on ${id}: ${JSON.stringify({ mine, theirs })}`);
  }
  db.close();
  return ms;
}
