import Database from "better-sqlite3";
import type { Estate } from "../core/estate/estate";
import { OUTSIDE_SQL, type OutsideRow, outsideShares } from "./outside";

/** The estate in an SQLite database in memory, indexed; and the question asked of it. */
export function inSqlite(estate: Estate): () => OutsideRow[] {
  const db = new Database(":memory:");
  db.exec(`
    create table item (id integer primary key, parent integer, inherits integer);
    create table share (id integer primary key, item integer, open integer, keyed integer, role integer, download integer, until integer);
    create table audience (share integer, person integer, organisation integer);
  `);
  const addItem = db.prepare("insert into item values (?, ?, ?)");
  const addShare = db.prepare("insert into share values (?, ?, ?, ?, ?, ?, ?)");
  const addPerson = db.prepare("insert into audience values (?, ?, ?)");
  const { items, principals } = estate;
  db.transaction(() => {
    for (let slot = 0; slot < items.count; slot++) addItem.run(slot, items.parent[slot], items.inherits[slot]);
    for (const { id, item, open, keyed, role, download, until, people } of outsideShares(estate)) {
      addShare.run(id, item, open, keyed, role, download, until);
      for (const person of people) addPerson.run(id, person, principals.organisationOf[person]);
    }
  })();
  db.exec(`
    create index item_parent on item (parent, inherits);
    create index share_item on share (item);
    create index audience_share on audience (share, person, organisation);
    analyze;
  `);
  const query = db.prepare(OUTSIDE_SQL);
  return () => query.all() as OutsideRow[];
}
