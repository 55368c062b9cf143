import SQLite from "better-sqlite3";
import { sql } from "kysely";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Db, openDatabase, runForEach, writing } from "./open";
import { preparingOnce } from "./statements";

let db: Db;
beforeEach(async () => {
  db = await openDatabase(join(mkdtempSync(join(tmpdir(), "latch-statements-")), "latch.sqlite"));
});
afterEach(() => db.destroy());

const INSERT = `insert into setting (person, name, body) values (?, ?, ?)`;
const rows = Array.from({ length: 1_000 }, (_, i) => ["ada@home.example", `s${i}`, JSON.stringify({ i })]);
const count = async () => (await db.selectFrom("setting").select("name").execute()).length;

test("a statement runs for each row, and with the rest of its transaction or not at all", async () => {
  const before = await count();
  await expect(
    writing(db, async (within) => {
      runForEach(within, INSERT, rows);
      throw new Error("something else fails");
    }),
  ).rejects.toThrow("something else fails");
  expect(await count()).toBe(before);
  await writing(db, async (within) => runForEach(within, INSERT, rows));
  expect(await count()).toBe(before + 1_000);
});

test("the same text is prepared once; of very many, those longest known are prepared again", () => {
  const connection = new SQLite(":memory:");
  const prepare = jest.spyOn(connection, "prepare");
  const once = preparingOnce(connection);
  const ask = (n: number) => once.prepare(`select ${n} as n`).all([]);
  expect([ask(1), ask(1), ask(2)]).toEqual([[{ n: 1 }], [{ n: 1 }], [{ n: 2 }]]);
  expect(prepare).toHaveBeenCalledTimes(2);
  for (let n = 3; n <= 400; n++) ask(n);
  expect(ask(1)).toEqual([{ n: 1 }]);
  expect(prepare).toHaveBeenCalledTimes(401);
  once.close();
});

test("a table that has changed is seen as it is by a statement that was prepared before", async () => {
  const all = () => sql<{ name: string; more?: string }>`select * from changing`.execute(db);
  await sql`create table changing (name text)`.execute(db);
  await sql`insert into changing values ('a')`.execute(db);
  expect((await all()).rows).toEqual([{ name: "a" }]);
  await sql`alter table changing add column more text default 'b'`.execute(db);
  expect((await all()).rows).toEqual([{ name: "a", more: "b" }]);
});
