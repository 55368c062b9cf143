import SQLite from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type EntryText, nextEntry } from "@/core/ledger/chain";
import { stagedChange } from "../../dockets/receipts";
import { append } from "../../records/ledger/ledger";
import { verifyLedger } from "../../records/ledger/verify";
import { migrations } from "./migrations";
import { openDatabase } from "./open";

/** A database as it was left by the steps up to one of them. */
async function databaseOf(steps: string[]) {
  const path = join(mkdtempSync(join(tmpdir(), "latch-migrations-")), "latch.sqlite");
  const connection = new SQLite(path);
  const db = new Kysely<unknown>({ dialect: new SqliteDialect({ database: connection }) });
  const taken = Object.fromEntries(steps.map((step) => [step, migrations[step]]));
  const { error } = await new Migrator({ db, provider: { getMigrations: async () => taken } }).migrateToLatest();
  if (error) throw error;
  return { path, connection, close: () => db.destroy() };
}

test("a docket that was filled before changes were about more than shares is still the same docket", async () => {
  const old = await databaseOf(["001-estate", "002-dockets-and-ledger", "003-sign-in"]);
  old.connection.exec(`
    insert into docket (id, state, made_by, made_at) values ('d', 'preparing', 'imre@home.example', '2026-10-05T08:00:00Z');
    insert into docket_change (id, docket_id, position, share_id, store_id, item_name, audience, body, state)
      values ('c', 'd', 1, 's1', 'stacks', 'Tour', 'Whoever has the address', '{"action":"revoke","shareId":"s1"}', 'staged');
  `);
  await old.close();
  const db = await openDatabase(old.path);
  const rows = await db.selectFrom("docket_change").selectAll().execute();
  expect(rows.map(stagedChange)).toEqual([
    {
      subject: "s1",
      itemName: "Tour",
      audience: "Whoever has the address",
      change: { action: "revoke", shareId: "s1" },
    },
  ]);
  expect(await db.selectFrom("removal").selectAll().execute()).toEqual([]);
  await db.destroy();
});

test("what had other names is what it was, under those of today", async () => {
  const steps = Object.keys(migrations).filter((step) => step < "013");
  const old = await databaseOf(steps);
  old.connection.exec(`
    insert into docket (id, state, made_by, made_at, origin) values ('d', 'done', 'Tight Latch', '2026-10-05T08:00:00Z', 'act');
    insert into rule_setting (rule, body, set_by, set_at)
      values ('open-expiry', '{"isOn":true,"mode":"act","graceDays":3,"parameters":{}}', 'imre', '2026-10-05T08:00:00Z');
    insert into watch (id, name, body, is_on, since, made_by, made_at)
      values ('w', 'Copies', '{"kind":"acts","severity":"high"}', 1, 0, 'imre', '2026-10-05T08:00:00Z');
    insert into kept_query (id, owner, name, view, for_all, made_at) values ('k', 'imre', 'Open', 'q=reach:open', 0, '2026-10-05T08:00:00Z');
    insert into setting (person, name, body) values ('', 'acting-stopped', '{"by":"imre","at":"2026-10-05T08:00:00Z"}');
    insert into act (seq, at, source, key, verb, who, item, share, whom, remarks, body)
      values (1, 0, 'dock', 'e1', 'opened', 0, 0, 0, 0, 0, '{}');
    insert into connection (id, name, url, key, cursor, act_cursor, records) values ('dock', 'Dock', 'http://127.0.0.1:1', 'k', 'c', 'a7', 0);
  `);
  await old.close();
  const db = await openDatabase(old.path);
  expect(await db.selectFrom("docket").select("origin").executeTakeFirst()).toEqual({ origin: "enforce" });
  const [{ body }] = await db.selectFrom("rule_setting").select("body").execute();
  expect(JSON.parse(body)).toMatchObject({ mode: "enforce", graceDays: 3 });
  expect(JSON.parse((await db.selectFrom("watch").select("body").executeTakeFirstOrThrow()).body).kind).toBe("events");
  expect(await db.selectFrom("saved_query").select("view").execute()).toEqual([{ view: "q=reach:open" }]);
  expect(await db.selectFrom("setting").select("name").execute()).toEqual([{ name: "enforcing-stopped" }]);
  expect(await db.selectFrom("event").select(["seq", "verb"]).execute()).toEqual([{ seq: 1, verb: "opened" }]);
  expect(await db.selectFrom("connection").select("event_cursor").execute()).toEqual([{ event_cursor: "a7" }]);
  await db.destroy();
});

test("entries of before there was a tree are its leaves as they were written, and none may change after either", async () => {
  const old = await databaseOf(Object.keys(migrations).filter((step) => step < "022"));
  const insert = old.connection.prepare("insert into ledger values (?, ?, ?, ?, ?, ?, ?)");
  let last: EntryText | undefined;
  for (const body of [{ b: 1, a: "ü" }, { text: "x" }, { c: [] }]) {
    last = nextEntry(last, { at: "2026-10-05T08:00:00Z", actor: "me", kind: "waivers.given", body });
    const { seq, at, actor, kind, previous, hash } = last;
    insert.run(seq, at, actor, kind, JSON.stringify(body), previous, hash);
  }
  await old.close();
  const db = await openDatabase(old.path);
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 3 });
  await append(db, "me", "note-left", { shareId: "s", text: "after" });
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 4 });
  const change = db.updateTable("ledger").set({ actor: "you" }).execute();
  await expect(change).rejects.toMatchObject({ message: expect.stringContaining("only added to") });
  await db.destroy();
});
