import { concatBytes } from "@noble/hashes/utils.js";
import { type Kysely, sql } from "kysely";
import { entryText, type EntryText } from "@/core/ledger/chain";
import { canonicalOf } from "@/core/ledger/check";
import { sha256 } from "@/core/ledger/hashing";
import { leafHash, TreeEdge } from "@/core/ledger/merkle";

const PAGE = 5_000;

/** The tree over the ledger, what is kept beside its entries, checkpoints, the keys that sign them, and their witnesses. */
export async function treeOverTheLedger(db: Kysely<unknown>) {
  for (const column of ["nodes blob not null default x''", "detail text", "salt blob"])
    await sql.raw(`alter table ledger add column ${column}`).execute(db);
  await sql`drop trigger ledger_no_update`.execute(db);
  await growTree(db);
  const statements = [
    `create trigger ledger_no_update before update of seq, at, actor, kind, body, previous, hash, nodes on ledger
      begin select raise(abort, 'the ledger is only added to'); end`,
    // What names somebody outside can be taken out, and never be changed.
    `create trigger ledger_detail before update of detail, salt on ledger
      when new.detail is not null or new.salt is not null begin select raise(abort, 'the ledger is only added to'); end`,
    `create table checkpoint (size integer primary key, at text not null, note text not null)`,
    ...["update", "delete"].map(
      (act) => `create trigger checkpoint_no_${act} before ${act} on checkpoint
        begin select raise(abort, 'checkpoints are only added to'); end`,
    ),
    `create table ledger_key (id text primary key, name text not null, public_key text not null, sealed text not null,
      made_at text not null, made_after integer not null) without rowid`,
    `create table witness (id integer primary key, kind text not null, target text not null, added_at text not null,
      sent_size integer not null default 0, sent_at text, tries integer not null default 0, next_at integer not null default 0,
      error text, unique (kind, target))`,
    `create table reading_day (store text not null, day text not null, readings integer not null, records integer not null,
      errors integer not null, gap integer not null, primary key (store, day)) without rowid`,
    `create table stamp (size integer not null references checkpoint (size), witness_id integer not null, answer blob not null,
      primary key (size, witness_id)) without rowid`,
  ];
  for (const statement of statements) await sql.raw(statement).execute(db);
}

/** Entries of before there was a tree become its leaves, as they stand. */
async function growTree(db: Kysely<unknown>) {
  const edge = new TreeEdge(sha256);
  for (let after = 0; ;) {
    const { rows } = await sql<EntryText>`select seq, at, actor, kind, body, previous, hash from ledger
      where seq > ${after} order by seq limit ${PAGE}`.execute(db);
    if (rows.length === 0) return;
    for (const entry of rows) {
      // What isn't JSON any more was changed by somebody; it becomes a leaf as it is, and verifying finds it.
      const text = entryText({ ...entry, body: canonicalOf(entry.body) ?? entry.body });
      const nodes = concatBytes(...edge.add(leafHash(sha256, text)));
      await sql`update ledger set nodes = ${nodes} where seq = ${entry.seq}`.execute(db);
    }
    after = rows[rows.length - 1].seq;
  }
}
