import { serve, type ServerType } from "@hono/node-server";
import { Hono } from "hono";
import type { AddressInfo } from "node:net";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { App } from "@/server/app";
import { appIn } from "./app";
import type { EventRecord } from "@/core/estate/records";
import type { Db } from "@/server/platform/db/open";
import { entriesBefore } from "@/server/records/ledger/ledger";
import { verifyLedger } from "@/server/records/ledger/verify";
import { recordLine } from "@/core/estate/estateFile";
import { exportEstate } from "@/server/records/exportEstate";
import { importEstate } from "@/server/stores/importEstate";
import { currentRecords } from "@/server/records/facts";
import { recordsAt } from "./pastFacts";
import { hasNewEvents, readStores } from "@/server/stores/read";
import { connect, connections } from "@/server/stores/connections";
import { storeApi } from "@/standins/store/api";
import { StoreDatabase } from "@/standins/store/database";
import { STORES } from "@/standins/store/stores";
import { file, head, item, link, NOW, person } from "./records";

process.env.LATCH_NOW = NOW;

// Thousands of facts, on a machine that may be busy.
jest.setTimeout(30_000);

const KEY = "a key that is long enough";
const FILES = 2_500;
let server: ServerType;
let store: StoreDatabase;
let app: App;
let db: Db;
let paths: string[];
/** Requests after which the store stops answering; to see what a reading leaves behind that is cut off. */
let answersLeft = Infinity;

beforeEach(async () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-reading-"));
  store = new StoreDatabase(join(folder, "store.sqlite"));
  store.transaction(() => {
    store.put(person("in", "in@wrenmoor.example"), NOW);
    store.put(item("a", null, { storeId: "dock" }), NOW);
    for (let i = 0; i < FILES; i++) store.put(file(`f${i}`, "a", { storeId: "dock" }), NOW);
    store.put(link("l", "f7", { address: "TOKEN" }), NOW);
  });
  paths = [];
  answersLeft = Infinity;
  const api = new Hono();
  api.use("*", async (c, next) => {
    paths.push(c.req.path + new URL(c.req.url).search);
    if (answersLeft-- <= 0) return c.json({ error: "The store is being repaired." }, 503);
    await next();
  });
  api.route("/api", storeApi(store, STORES.dock, KEY, "http://127.0.0.1:1"));
  server = serve({ fetch: api.fetch, port: 0, hostname: "127.0.0.1" });
  await new Promise((resolve) => server.once("listening", resolve));
  app = await appIn(folder);
  ({ db } = app);
  await connect(
    app,
    {
      id: "dock",
      name: "Loading Dock",
      url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
      key: KEY,
    },
    "tests",
  );
});

afterEach(async () => {
  await app.close();
  await new Promise((resolve) => server.close(resolve));
});

const facts = () => db.selectFrom("fact").select(["type", "key", "from", "to"]).execute();
const changed = async () => (await readStores(app)).map((one) => one.changed);

test("a first reading brings everything page by page, a second one nothing", async () => {
  const steps: number[] = [];
  await readStores(app, ({ records }) => steps.push(records));
  expect(steps).toEqual([1_000, 1_000, FILES + 3 - 2_000]);
  expect([...currentRecords(db)]).toHaveLength(FILES + 4);
  expect(await changed()).toEqual([0]);
  expect(paths.filter((path) => path.startsWith("/api/records")).at(-1)).toContain(`after=${FILES + 3}`);
});

test("a reading that breaks off goes on from its last page: nothing is lost and nothing doubled", async () => {
  answersLeft = 2; // The description and one page.
  expect(await readStores(app)).toMatchObject([{ store: "Loading Dock", error: "The store is being repaired." }]);
  expect((await facts()).length).toBe(1_001);
  expect((await connections(db))[0]).toMatchObject({ last_error: "The store is being repaired.", first_read_at: null });
  answersLeft = Infinity;
  paths = [];
  await readStores(app);
  expect(paths[1]).toContain("after=1000");
  const all = await facts();
  expect(all.length).toBe(FILES + 4);
  expect(new Set(all.map(({ type, key }) => type + key)).size).toBe(FILES + 4);
  expect((await connections(db))[0]).toMatchObject({ last_error: null, first_read_at: NOW });
});

test("a change ends one fact and begins the next, at the time at which the store made it", async () => {
  await readStores(app);
  store.put(link("l", "f7", { address: "TOKEN", revokedAt: "2026-10-05T07:30:00Z" }), "2026-10-05T07:30:00Z");
  expect(await changed()).toEqual([1]);
  const periods = await db.selectFrom("fact").select(["from", "to"]).where("key", "=", "l").orderBy("id").execute();
  expect(periods).toEqual([
    { from: "2026-09-30T08:00:00Z", to: "2026-10-05T07:30:00Z" },
    { from: "2026-10-05T07:30:00Z", to: null },
  ]);
});

test("the estate of a past instant is made of the facts that held then", async () => {
  await readStores(app);
  store.put(link("l", "f7", { address: "TOKEN", revokedAt: "2026-10-05T07:30:00Z" }), "2026-10-05T07:30:00Z");
  await readStores(app);
  const linkAt = async (at: string) => (await recordsAt(db, at)).find((record) => record.type === "link");
  expect(await linkAt("2026-09-30T07:59:59Z")).toBeUndefined();
  expect(await linkAt("2026-10-05T07:29:59Z")).toMatchObject({ id: "l" });
  expect(await linkAt("2026-10-05T07:29:59Z")).not.toHaveProperty("revokedAt");
  expect(await linkAt("2026-10-05T07:30:00Z")).toMatchObject({ revokedAt: "2026-10-05T07:30:00Z" });
  expect((await recordsAt(db, NOW)).length).toBe([...currentRecords(db)].length);
});

test("a thing without a date of its own holds since before we looked; a later one since it came", async () => {
  await readStores(app);
  store.put(person("new", "new@wrenmoor.example"), "2026-10-05T07:00:00Z");
  await readStores(app);
  const people = await db
    .selectFrom("fact")
    .select(["key", "from"])
    .where("type", "=", "person")
    .orderBy("key")
    .execute();
  expect(people).toEqual([
    { key: "in", from: null },
    { key: "new", from: "2026-10-05T07:00:00Z" },
  ]);
});

test("a wrong key is said in the store's words", async () => {
  const [{ url }] = await connections(db);
  await connect(app, { id: "dock", name: "Loading Dock", url, key: "another key altogether" }, "tests");
  expect(await readStores(app)).toMatchObject([{ error: "The key is not right." }]);
});

test("a store's key is sealed at rest", async () => {
  const [{ key }] = await connections(db);
  expect(Buffer.from(key, "base64").toString("latin1")).not.toContain(KEY);
});

test("readings leave entries in the ledger where they changed something", async () => {
  await readStores(app);
  await readStores(app);
  expect((await entriesBefore(db, 100, 10)).map(({ kind, body }) => [kind, body])).toEqual([
    ["store-read", { store: "Loading Dock", changed: FILES + 4, first: true }],
    ["store-connected", { store: "dock", name: "Loading Dock", url: expect.stringContaining("http://127.0.0.1:") }],
  ]);
  expect(await verifyLedger(db)).toMatchObject({ unbroken: true, entries: 2 });
});

const lines = (...records: object[]) => records.map((record) => JSON.stringify(record));
const exported = async (from: Db, withAddresses = false) => {
  const out: string[] = [];
  for await (const record of exportEstate(from)) out.push(recordLine(record, { withAddresses }));
  return out;
};

describe("estate files", () => {
  const tour = (...itemIds: string[]) => ({
    ...{ type: "engagement", id: "e", name: "Tour", itemIds, organisations: ["quay.example"] },
    ...{ startsAt: NOW, endsAt: NOW },
  });

  test("may speak of what is known already, and nothing of a bad one is kept", async () => {
    await readStores(app);
    const before = (await facts()).length;
    const house = lines(head(), tour("f9"), { ...tour("nothing"), id: "n" });
    const bad = await importEstate(app, house, { as: "house", name: "bad.jsonl" });
    expect([bad.changed, bad.problems]).toEqual([
      null,
      [{ line: 3, message: expect.stringContaining("a reference to nothing: itemIds nothing") }],
    ]);
    expect((await facts()).length).toBe(before);
    const lenient = await importEstate(app, house, { as: "house", name: "bad.jsonl", lenient: true });
    expect([lenient.changed, (await facts()).length]).toEqual([1, before + 2]);
  });

  test("an export is read back as it was, without the addresses unless asked for", async () => {
    await readStores(app);
    await importEstate(app, lines(head(["wrenmoor.example"])), { as: "house", name: "house.jsonl" });
    const plain = await exported(db);
    expect(plain.some((line) => line.includes("/l/TOKEN"))).toBe(false);
    expect((await exported(db, true)).some((line) => line.includes("/l/TOKEN"))).toBe(true);
    const other = await appIn();
    const given = { as: "export", name: "export.jsonl" };
    const { problems, changed } = await importEstate(other, plain, given);
    // The head is not counted: it is a setting from now on.
    expect([problems, changed]).toEqual([[], plain.length - 1]);
    expect((await importEstate(other, plain, given)).changed).toBe(0);
    expect(await exported(other.db)).toEqual(plain);
    await other.close();
  });
});

test("a membership that a store no longer has ends in the facts, and is known as removed", async () => {
  const member = { type: "member" as const, groupId: "crew", memberId: "in" };
  store.put({ type: "group", id: "crew", name: "Crew", storeId: "dock" }, NOW);
  store.put(member, NOW);
  await readStores(app);
  store.remove(member);
  expect(await changed()).toEqual([1]);
  expect([...currentRecords(db)].filter(({ type }) => type === "member")).toEqual([]);
  expect(await db.selectFrom("removal").select("seq").execute()).toHaveLength(1);
  store.put(member);
  expect(await changed()).toEqual([1]);
  expect([...currentRecords(db)].filter(({ type }) => type === "member")).toMatchObject([member]);
});

describe("what happened in a store", () => {
  const event = (id: string, more: Partial<EventRecord> = {}): EventRecord => ({
    type: "event",
    id,
    at: NOW,
    actorId: "in",
    verb: "opened",
    itemId: "f7",
    shareId: "l",
    ...more,
  });
  const kept = () => db.selectFrom("event").select(["seq", "key", "source", "remarks"]).orderBy("seq").execute();
  const cursor = async () => (await connections(db))[0].event_cursor;

  test("is read behind the records that it speaks of, page by page, each event once", async () => {
    for (let i = 0; i < 1_100; i++) store.addEvent(event(`a${i}`));
    expect(await hasNewEvents(app)).toBe(true);
    expect(await readStores(app)).toMatchObject([{ events: 1_100, alerts: 0 }]);
    expect((await kept()).every(({ source, remarks }) => source === "dock" && remarks === 0)).toBe(true);
    expect([await cursor(), await hasNewEvents(app)]).toEqual([1_100, false]);
    expect(await readStores(app)).toMatchObject([{ events: 0 }]);
    store.addEvent(event("a1100"));
    expect(await hasNewEvents(app)).toBe(true);
    expect(await readStores(app)).toMatchObject([{ events: 1 }]);
    expect(await kept()).toHaveLength(1_101);
  });

  test("is left for later where only the records are asked for", async () => {
    store.addEvent(event("a"));
    expect(await readStores(app, () => {}, { withEvents: false })).toMatchObject([{ changed: FILES + 4, events: 0 }]);
    expect([await cursor(), (await kept()).length]).toEqual([0, 0]);
  });

  test("goes on behind its last whole page when the store breaks off", async () => {
    for (let i = 0; i < 1_500; i++) store.addEvent(event(`a${i}`));
    answersLeft = 5; // The description, three pages of records, one of events.
    expect(await readStores(app)).toMatchObject([{ error: "The store is being repaired." }]);
    expect([await cursor(), (await kept()).length]).toEqual([1_000, 1_000]);
    expect((await connections(db))[0].last_error).toBe("The store is being repaired.");
    // A store that can't be asked has nothing new to tell.
    expect(await hasNewEvents(app)).toBe(false);
    answersLeft = Infinity;
    await readStores(app);
    expect(new Set((await kept()).map(({ key }) => key)).size).toBe(1_500);
    expect((await connections(db))[0].last_error).toBeNull();
  });

  test("comes from estate files too, and goes out with them", async () => {
    await readStores(app);
    const told = lines(head(["wrenmoor.example"]), event("x"), event("y", { verb: "waved-at" }));
    const given = { as: "archive", name: "events.jsonl" };
    expect((await importEstate(app, told, given)).changed).toBe(2);
    expect((await importEstate(app, told, given)).changed).toBe(0);
    expect((await kept()).map(({ key, source }) => [key, source])).toEqual([
      ["x", "archive"],
      ["y", "archive"],
    ]);
    expect(await db.selectFrom("fact").select("id").where("type", "=", "event").execute()).toEqual([]);
    const out = await exported(db);
    expect(out.slice(-2).map((line) => JSON.parse(line))).toEqual([event("x"), event("y", { verb: "waved-at" })]);
  });

  test("a share that somebody makes in the stand-in is a record and an event; nothing is made of what isn't there", async () => {
    const [{ url }] = await connections(db);
    const make = async (body: object) => {
      const response = await fetch(`${url}/api/shares`, {
        method: "POST",
        headers: { Authorization: `Bearer ${KEY}`, "Content-Type": "application/json" },
        body: JSON.stringify(body),
      });
      return [response.status, await response.json()];
    };
    const made = { itemId: "f7", by: "in", reach: "named", recipients: ["out@quay.example"] };
    const [status, record] = await make(made);
    expect([status, record.reach, record.recipients]).toEqual([200, "named", [{ email: "out@quay.example" }]]);
    expect((await make({ ...made, itemId: "nothing" }))[0]).toBe(404);
    expect((await make({ ...made, reach: "everywhere" }))[0]).toBe(400);
    expect(await readStores(app)).toMatchObject([{ events: 1 }]);
    const [{ verb, body }] = await db.selectFrom("event").select(["verb", "body"]).execute();
    expect([verb, JSON.parse(body).shareId]).toEqual(["shared-named", record.id]);
  });
});
