import { sql } from "kysely";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Db, openDatabase, writing } from "../../platform/db/open";
import { entryText, nextEntry } from "@/core/ledger/chain";
import { leafHash } from "@/core/ledger/merkle";
import type { LedgerBody, LedgerKind } from "@/core/ledger/kinds";
import { spelledToday } from "@/core/ledger/spelling";
import { append, appendWithin, entriesBefore } from "./ledger";
import { sha256 } from "./sha256";
import { verifyLedger } from "./verify";

process.env.LATCH_NOW = "2026-10-05T08:00:00Z";
let db: Db;
let path: string;
// Errors of the native module are of another realm than the tests' own, so they are matched by their message.
const refusal = { message: expect.stringContaining("only added to") };

beforeEach(async () => {
  path = join(mkdtempSync(join(tmpdir(), "latch-ledger-")), "latch.sqlite");
  db = await openDatabase(path);
});
afterEach(() => db.destroy());

test("entries follow each other, also when many are added at once", async () => {
  await Promise.all(
    Array.from({ length: 40 }, (_, i) => append(db, "me", "note-left", { shareId: "s", text: `${i}` })),
  );
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 40 });
  expect((await entriesBefore(db, 11, 3)).map((entry) => entry.seq)).toEqual([10, 9, 8]);
});

test("entries are searched by who, what, and anything that they hold, in whatever case", async () => {
  await append(db, "ida@home.example", "note-left", { shareId: "s1", text: "Zoë asked for it" });
  await append(db, "ivo@home.example", "enforcing-stopped", {});
  await append(db, "ida@home.example", "note-left", { shareId: "s2", text: "For the press" });
  const found = async (text: string, limit = 10) => (await entriesBefore(db, 100, limit, text)).map(({ seq }) => seq);
  expect(await found("IDA")).toEqual([3, 1]);
  expect(await found("ida", 1)).toEqual([3]);
  expect(await found("zoe note left")).toEqual([1]);
  expect(await found("enforcing stopped")).toEqual([2]);
  expect(await found("s2 zoë")).toEqual([]);
  expect(await found(" ")).toEqual([3, 2, 1]);
});

test("another process may add in between", async () => {
  const other = await openDatabase(path);
  for (let i = 0; i < 6; i++) await append(i % 2 ? db : other, "me", "note-left", { shareId: "s", text: `${i}` });
  await other.destroy();
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 6 });
});

test("an entry is kept together with what it tells of, or neither is", async () => {
  const failing = writing(db, async (within) => {
    await appendWithin(within, "me", "enforcing-stopped", {});
    throw new Error("something else went wrong");
  });
  await expect(failing).rejects.toThrow("something else");
  expect(await verifyLedger(db)).toMatchObject({ entries: 0 });
});

test("what is no kind of entry, or says other than its kind does, is refused with what it tells of", async () => {
  const wrong = { shareId: "s" } as unknown as LedgerBody<"note-left">;
  await expect(append(db, "me", "note-left", wrong)).rejects.toThrow("text");
  await expect(append(db, "me", "rule.set" as LedgerKind, {})).rejects.toThrow("no such kind of entry: rule.set");
  expect(await verifyLedger(db)).toMatchObject({ entries: 0 });
});

test("entries spelled as they were before stay as they were written, and are read in today's spelling", async () => {
  const old = { at: "2026-10-01T00:00:00Z", actor: "me", kind: "waivers.given", body: { any: "thing" } };
  const entry = nextEntry(undefined, old);
  const nodes = leafHash(sha256, entryText(entry));
  await db
    .insertInto("ledger")
    .values({ ...entry, nodes, detail: null, salt: null })
    .execute();
  await append(db, "me", "enforcing-goes-on", {});
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 2 });
  const [, first] = await entriesBefore(db, 3, 2);
  expect([first.kind, spelledToday(first.kind)]).toEqual(["waivers.given", "waivers-given"]);
});

test("nothing in it can be changed or taken out by a slip", async () => {
  await append(db, "me", "enforcing-stopped", {});
  await expect(db.updateTable("ledger").set({ actor: "you" }).execute()).rejects.toMatchObject(refusal);
  await expect(db.deleteFrom("ledger").execute()).rejects.toMatchObject(refusal);
  await expect(db.updateTable("ledger").set({ detail: "{}" }).execute()).rejects.toMatchObject(refusal);
});

test.each([
  ["a changed byte", "update ledger set body = replace(body, 'shareId', 'shareIt') where seq = 2", 2],
  ["a body that is no JSON any more", "update ledger set body = 'x' where seq = 2", 2],
  ["a changed time", "update ledger set at = '2026-10-05T08:00:01Z' where seq = 3", 3],
  ["an entry taken out", "delete from ledger where seq = 2", 2],
])("%s is found", async (_, statement, seq) => {
  for (let i = 0; i < 4; i++) await append(db, "me", "note-left", { shareId: "s", text: "1" });
  await sql`drop trigger ledger_no_update`.execute(db);
  await sql`drop trigger ledger_no_delete`.execute(db);
  await sql.raw(statement).execute(db);
  expect(await verifyLedger(db)).toMatchObject({ unbroken: false, seq });
});

test("what names somebody outside can be taken out for good, and the ledger still holds", async () => {
  await append(db, "me", "note-left", { shareId: "s", text: "Zoë of quay.example" });
  await append(db, "me", "enforcing-stopped", {});
  await db.updateTable("ledger").set({ detail: null, salt: null }).where("seq", "=", 1).execute();
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 2 });
  const [, note] = await entriesBefore(db, 3, 2);
  expect(note.body).toEqual({ shareId: "s" });
});
