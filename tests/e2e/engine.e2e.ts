import { existsSync, mkdtempSync, readFileSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { writeDatabase } from "@/bench/database";
import { Clock } from "@/server/platform/clock";
import { EngineClient } from "@/server/engine/client";
import { openDatabase, writing } from "@/server/platform/db/open";
import { keepFacts } from "@/server/records/facts";
import { file, item, NOW } from "../records";

/** The engine's thread as the server runs it, over a generated estate that is large enough for its columns to be kept. */
const ITEMS = 60_000;
/** More than a thread takes in while others wait. */
const LATE = 25_000;
const root = join(__dirname, "../..");
const database = join(mkdtempSync(join(tmpdir(), "latch-engine-")), "latch.sqlite");
const columns = `${database}.columns`;
const start = () => new EngineClient(join(root, "dist/engine.mjs"), database, new Clock());
const paths = (engine: EngineClient) => engine.ask("waysIn", { item: "i0", person: "p20@home.example" });
let first: unknown;

jest.setTimeout(300_000);

beforeAll(() => writeDatabase(database, ITEMS));

test("a thread that dies is started again: what was asked meanwhile is answered, and all that was known is known", async () => {
  const engine = start();
  await engine.ask("refresh", {});
  first = await engine.ask("waysIn", { item: "i0" });
  const asked = [engine.ask("find", { text: "pdf" }), paths(engine)];
  await engine.close();
  const [found] = (await Promise.all(asked)) as { items: unknown[] }[];
  expect(found.items).toHaveLength(8);
  expect(await engine.ask("waysIn", { item: "i0" })).toEqual(first);
  await engine.close();
});

test("a question that dies twice is given up, with a message", async () => {
  const engine = start();
  const asked = engine.ask("find", { text: "pdf" }).catch((error: Error) => error.message);
  await engine.close();
  await engine.close();
  expect(await asked).toBe("the engine stopped");
  await engine.close();
});

test("the columns that it kept start the next one, and broken ones are passed over", async () => {
  expect(existsSync(columns)).toBe(true);
  const kept = readFileSync(columns);
  const answers = [];
  for (const spoil of [() => {}, () => truncateSync(columns, 1_000), () => writeFileSync(columns, "nonsense")]) {
    spoil();
    const engine = start();
    await engine.ask("refresh", {});
    answers.push(await engine.ask("waysIn", { item: "i0" }));
    await engine.close();
  }
  expect(answers).toEqual([first, first, first]);
  // What was passed over has been written anew.
  expect(readFileSync(columns).length).toBe(kept.length);
});

test("one that is far behind answers about what it knows, until another has taken its place", async () => {
  const engine = start();
  await engine.ask("refresh", {});
  const found = async (text: string) => (await engine.ask("find", { text })).items.length;
  const late = [item("late", null), ...Array.from({ length: LATE }, (_, i) => file(`late${i}`, "late"))];
  const db = await openDatabase(database);
  await writing(db, (tx) =>
    keepFacts(
      tx,
      "late",
      late.map((record) => ({ record: { ...record, name: `Latecomer ${record.id}` }, at: NOW, since: null })),
    ),
  );
  const told: unknown[] = [];
  const refreshed = engine.ask("refresh", {}).then(() => told.push("refreshed"));
  const again = engine.ask("refresh", {}).then(() => told.push("again"));
  told.push(await found("Latecomer"));
  await Promise.all([refreshed, again]);
  told.push(await found("Latecomer"));
  expect(told).toEqual([0, "refreshed", "again", 8]);
  expect(await engine.ask("behind", {})).toBe(0);
  expect(await engine.ask("waysIn", { item: "i0" })).toEqual(first);
  await db.destroy();
  await engine.close();
});
