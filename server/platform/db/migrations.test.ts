import SQLite from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { stagedChange } from "../../dockets/receipts";
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
      values ('c', 'd', 1, 's1', 'stacks', 'Tour', 'Anyone with the address', '{"action":"revoke","shareId":"s1"}', 'staged');
  `);
  await old.close();
  const db = await openDatabase(old.path);
  const rows = await db.selectFrom("docket_change").selectAll().execute();
  expect(rows.map(stagedChange)).toEqual([
    {
      subject: "s1",
      itemName: "Tour",
      audience: "Anyone with the address",
      change: { action: "revoke", shareId: "s1" },
    },
  ]);
  expect(await db.selectFrom("removal").selectAll().execute()).toEqual([]);
  await db.destroy();
});
