import SQLite from "better-sqlite3";
import { Kysely, Migrator, SqliteDialect } from "kysely";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { App } from "@/server/app";
import { appIn } from "./app";
import { buildEstate } from "@/core/estate/estate";
import { type EstateRecord, recordKey } from "@/core/estate/records";
import { exposures } from "@/core/access/exposure";
import { readEstateFile, recordLine } from "@/core/estate/estateFile";
import { seconds } from "@/core/time/instant";
import { migrations } from "@/server/platform/db/migrations";
import { type Db, writing } from "@/server/platform/db/open";
import type { Schema } from "@/server/platform/db/schema";
import { exportEstate } from "@/server/records/exportEstate";
import { currentRecords, keepFacts } from "@/server/records/facts";
import { recordsAt } from "./pastFacts";
import { homeDomains, setHomeDomains } from "@/server/records/homeDomains";
import { importEstate } from "@/server/stores/importEstate";
import { namedHere, namedThere } from "@/server/records/names";
import { takeEvents } from "@/server/records/events/take";
import { connect } from "@/server/stores/connections";
import { file, grant, group, head, item, link, named, NOW, party, person, store, T } from "./records";
import { listedRows } from "./registerModel";

let app: App;
let db: Db;
beforeEach(async () => {
  app = await appIn();
  ({ db } = app);
});
afterEach(() => app.close());

const lines = (records: readonly object[]) => records.map((record) => JSON.stringify(record));
const add = (as: string, records: readonly object[], lenient = false) =>
  importEstate(app, lines(records), { as, name: `${as}.jsonl`, lenient });
const gathered = async <R>(records: AsyncIterable<R>) => {
  const all: R[] = [];
  for await (const record of records) all.push(record);
  return all;
};
const estateNow = async () => buildEstate(currentRecords(db));
const estateAt = async (at: string) => buildEstate(await recordsAt(db, at), seconds(at));
const exported = async () =>
  (await gathered(exportEstate(db))).map((record) => recordLine(record, { withAddresses: false }));
const here = <R extends EstateRecord>(of: Db, source: string, records: readonly R[]) =>
  writing(of, (within) => namedHere(within, source, records));
const later = (at: string) => (app.clock.standsAt = new Date(at));

const base = (id: string, name: string): EstateRecord[] => [
  head(),
  store("st"),
  person("in", "in@home.example"),
  person("out", "out@quay.example"),
  ...group("crew", "out"),
  item("a", null, { name }),
  file(id, "a", { name: `${name} file`, label: "restricted", ownerId: "in" }),
  link("l", id),
  grant("s", "a", "crew"),
];

describe("two sources with the same ids", () => {
  test("a name apart is none that the same page has for something else", async () => {
    await add("first", base("f", "First"));
    const named = await here(db, "dock", [item("a", null), item("dock:a", null)]);
    expect(named.map((one) => (one as { id: string }).id)).toEqual(["dock:dock:a", "dock:a"]);
  });

  test("never meet: the later's are NAME:ID, everywhere and for good", async () => {
    expect(await add("first", base("f", "First"))).toMatchObject({ problems: [] });
    expect(await add("second", base("f", "Second"))).toMatchObject({ problems: [] });
    const estate = await estateNow();
    const shown = listedRows(estate, T).map(({ id, itemId, itemName, storeId }) => [id, itemId, itemName, storeId]);
    expect(shown.sort()).toEqual([
      ["l", "f", "First file", "st"],
      ["s", "a", "First", "st"],
      ["second:l", "second:f", "Second file", "second:st"],
      ["second:s", "second:a", "Second", "second:st"],
    ]);
    expect(estate.principals.groups.map(({ id }) => id)).toEqual(["crew", "second:crew"]);
    // Told again, it is known by the name that it got.
    expect(await add("second", base("f", "Second"))).toMatchObject({ changed: 0 });
    await add("second", [head(), link("l", "f", { revokedAt: NOW })]);
    expect(
      listedRows(await estateNow(), T)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(["l", "s", "second:s"]);
    const { problems } = readEstateFile(await exported());
    expect(problems).toEqual([]);
  });

  test("people are one by address, whatever ids they have, and what one source says is not what another one says", async () => {
    await add("first", base("f", "First"));
    await add("second", [
      head(),
      person("in", "IN@home.example", { name: "Else", status: "left", department: "Stage" }),
    ]);
    await add("second", [head(), person("out", "other@quay.example")]);
    const { people } = await estateNow();
    expect(people.map(({ id, address, name, status, department }) => [id, address, name, status, department])).toEqual([
      ["in", "in@home.example", "Person in", "active", "Stage"],
      ["out", "out@quay.example", "Person out", "active", null],
      ["second:out", "other@quay.example", "Person out", "active", null],
    ]);
    const told = await db.selectFrom("fact").select(["source", "key"]).where("type", "=", "person").execute();
    expect(told.map(({ source, key }) => `${source} ${key}`).sort()).toEqual([
      "first in",
      "first out",
      "second second:in",
      "second second:out",
    ]);
  });

  test("whom to believe follows from the sources' order, not from who spoke first", async () => {
    const left = [head(), store("st"), person("in", "in@home.example", { name: "By A", status: "left" })];
    const active = [head(), store("st"), person("in", "in@home.example", { name: "By B", department: "Stage" })];
    const told = async (order: [string, object[]][]) => {
      const other = await appIn();
      const { db: one } = other;
      for (const [as, records] of order) await importEstate(other, lines(records), { as, name: as });
      const [{ name, status, department }] = buildEstate(currentRecords(one)).people;
      const out = (await gathered(exportEstate(one))).find((record) => record.type === "person");
      await other.close();
      return [name, status, department, out];
    };
    const forth = await told([
      ["a", left],
      ["b", active],
    ]);
    const back = await told([
      ["b", active],
      ["a", left],
    ]);
    expect([forth.slice(0, 3), back.slice(0, 3)]).toEqual([
      ["By A", "left", "Stage"],
      ["By A", "left", "Stage"],
    ]);
    expect(forth[3]).toMatchObject({ name: "By A", status: "left", department: "Stage" });
  });

  test("a store that is read is spoken for by nobody else", async () => {
    await connect(
      app,
      {
        id: "dock",
        name: "Loading Dock",
        url: "http://127.0.0.1:1",
        key: "a key that is long enough",
      },
      "tests",
    );
    const told = [store("dock"), person("in", "in@home.example"), item("a", null, { storeId: "dock" }), link("l", "a")];
    await writing(db, (within) =>
      keepFacts(
        within,
        "dock",
        told.map((record) => ({ record, at: NOW, since: null })),
      ),
    );
    const { changed, problems } = await add("archive", [
      head(),
      store("dock"),
      item("b", "a", { storeId: "dock" }),
      link("m", "a"),
      { type: "group", id: "g", name: "G", storeId: "dock" },
      party("quay.example", "denied"),
    ]);
    expect(changed).toBeNull();
    expect(problems).toEqual([
      { line: 2, message: "store dock is read from the store itself and can’t be imported" },
      { line: 3, message: "Loading Dock is read from the store itself and can’t be imported" },
      { line: 4, message: "Loading Dock is read from the store itself and can’t be imported" },
      { line: 5, message: "Loading Dock is read from the store itself and can’t be imported" },
    ]);
    // Another source's own link by that id is another link.
    await add("archive", [head(), store("shed"), item("c", null, { storeId: "shed" }), link("l", "c")]);
    expect(
      listedRows(await estateNow(), T)
        .map(({ id, itemId }) => [id, itemId])
        .sort(),
    ).toEqual([
      ["archive:l", "c"],
      ["l", "a"],
    ]);
  });

  test("a store that an import speaks for is told on by that import alone", async () => {
    await add("first", base("f", "First"));
    const { problems } = await add("second", [head(), link("m", "f")]);
    expect(problems).toEqual([{ line: 2, message: "store st is known from first: import the file as first" }]);
  });

  test("a change goes to its store by the store's own ids", async () => {
    await add("first", base("f", "First"));
    await here(db, "second", base("f", "Second").slice(1));
    expect(await namedThere(db, "second", { action: "revoke", shareId: "second:l" })).toMatchObject({ shareId: "l" });
    const handing = {
      action: "hand-over" as const,
      itemId: "second:f",
      address: "in@home.example",
      links: ["second:l"],
    };
    expect(await namedThere(db, "second", handing)).toMatchObject({ itemId: "f", links: ["l"] });
    expect(await namedThere(db, "first", { action: "revoke", shareId: "l" })).toMatchObject({ shareId: "l" });
  });

  test("what a store only mentions is nobody else's, whoever tells it later", async () => {
    const [first] = await here(db, "one", [grant("s", "a", "crew")]);
    expect(first).toMatchObject({ itemId: "a", toId: "crew" });
    const told = await here(db, "two", [...group("crew"), item("a", null)]);
    expect(told).toMatchObject([{ id: "two:crew" }, { id: "two:a", storeId: "st" }]);
  });

  test("events by one id, and of things by one id, are each their source's own", async () => {
    await add("first", base("f", "First"));
    await add("second", base("f", "Second"));
    const event = { type: "event", id: "e", at: NOW, actorId: "in", verb: "opened", itemId: "f", shareId: "l" };
    await add("first", [head(), event]);
    await add("second", [head(), { ...event, verb: "downloaded" }]);
    const out = (await exported()).map((line) => JSON.parse(line)).filter(({ type }) => type === "event");
    expect(out.map(({ id, itemId, shareId, actorId }) => [id, itemId, shareId, actorId])).toEqual([
      ["e", "f", "l", "in"],
      ["second:e", "second:f", "second:l", "second:in"],
    ]);
    expect(readEstateFile(await exported()).problems).toEqual([]);
  });
});

describe("home domains", () => {
  test("are set by the first who tells them, and by nobody but the settings after that", async () => {
    expect(await add("first", [head(["home.example"])])).toMatchObject({ otherHome: null });
    expect(await add("second", [head(["elsewhere.example"])])).toMatchObject({ otherHome: ["home.example"] });
    expect(await homeDomains(db)).toEqual(["home.example"]);
    later("2026-10-06T08:00:00Z");
    await setHomeDomains(db, "ida@home.example", ["home.example", "haus.example"]);
    expect((await estateNow()).homeDomains).toEqual(["home.example", "haus.example"]);
    expect((await estateAt(NOW)).homeDomains).toEqual(["home.example"]);
    const [{ kind, body }] = await db.selectFrom("ledger").selectAll().orderBy("seq", "desc").limit(1).execute();
    expect([kind, JSON.parse(body)]).toEqual([
      "home-domains-set",
      { before: ["home.example"], domains: ["home.example", "haus.example"] },
    ]);
  });

  test("without any there is no export, and it says why", async () => {
    await expect(exported()).rejects.toThrow("no home domains are set; set them under Estate");
  });
});

describe("an import is checked as the estate would be afterwards", () => {
  const deep = [head(), store("st"), store("other"), person("in", "in@home.example"), item("a", null), item("b", "a")];
  const rest = [file("f", "b"), link("l", "f"), ...group("g")];
  const BAD: [string, EstateRecord[], { line: number; message: string }[], string[]][] = [
    [
      "a known folder under its own child",
      [item("a", "b", { name: "Turned" }), file("x", "b")],
      [{ line: 2, message: "a parent cycle: a lies below itself" }],
      ["x"],
    ],
    [
      "both of a circle told again, of which one is moved",
      [item("b", "a", { name: "Same place" }), item("a", "b")],
      [{ line: 3, message: "a parent cycle: a lies below itself" }],
      ["b"],
    ],
    [
      "a parent moved to another store",
      [item("b", null, { storeId: "other" })],
      [{ line: 2, message: "f lies below b in store st; b can't be in store other" }],
      [],
    ],
    [
      "a folder with something in it that becomes a file",
      [file("b", "a")],
      [{ line: 2, message: "f lies below b; a file has no children" }],
      [],
    ],
    [
      "a right by a link's id",
      [grant("l", "f", "in")],
      [{ line: 2, message: "id l is known as a link, and can't become a grant" }],
      [],
    ],
    [
      "a person by a group's id",
      [person("g", "g@home.example")],
      [{ line: 2, message: "id g is known as a group, and can't become a person" }],
      [],
    ],
  ];

  test.each(BAD)(
    "%s is refused with its line, and leniently left out, and no more",
    async (_, told, problems, kept) => {
      await add("one", [...deep, ...rest]);
      const before = await exported();
      expect(await add("one", [head(), ...told])).toMatchObject({ changed: null, problems });
      expect(await exported()).toEqual(before);
      expect(await add("one", [head(), ...told], true)).toMatchObject({ changed: kept.length, problems });
      expect(readEstateFile(await exported()).problems).toEqual([]);
      expect(listedRows(await estateNow(), T).map(({ id }) => id)).toEqual(["l"]);
    },
  );

  test("an emptied folder may become a file in the same import", async () => {
    await add("one", [...deep, ...rest]);
    expect(await add("one", [head(), file("f", "a"), file("b", "a")])).toMatchObject({ problems: [], changed: 2 });
  });

  test("what is said to be skipped has no effect whatever", async () => {
    const told = [head(), head(["elsewhere.example"]), ...deep.slice(1), link("m", "nothing")];
    const { problems } = await add("one", told, true);
    expect(problems.map(({ line }) => line)).toEqual([2, 8]);
    expect([await homeDomains(db), (await estateNow()).shareCount]).toEqual([["home.example"], 0]);
  });

  test("nothing at all is taken from a file without a head, however lenient one is", async () => {
    expect(await add("one", [store("st"), head()], true)).toMatchObject({ changed: null, isHeadless: true });
    expect([...currentRecords(db)]).toEqual([]);
  });
});

describe("an import doesn't rewrite the past", () => {
  const outsiders = async (at: string) => {
    const estate = await estateAt(at);
    const position = estate.tree.position("a");
    return position === undefined ? null : exposures(estate, seconds(at)).at(position)!.outsiders;
  };

  test("a member, a right or a stance that is told later counts from then on", async () => {
    await add("one", [
      head(),
      store("st"),
      person("in", "in@home.example"),
      ...group("crew"),
      item("a", null),
      grant("s", "a", "crew"),
    ]);
    later("2026-10-07T08:00:00Z");
    await add("one", [head(), person("out", "out@quay.example"), { type: "member", groupId: "crew", memberId: "out" }]);
    later("2026-10-09T08:00:00Z");
    await add("one", [
      head(),
      grant("t", "a", "out", { grantedAt: "2026-01-01T00:00:00Z" }),
      person("two", "two@quay.example"),
    ]);
    await add("one", [head(), grant("u", "a", "two", { grantedAt: "2026-01-01T00:00:00Z" })]);
    const days = [
      "2026-10-06T08:00:00Z",
      "2026-10-07T07:59:59Z",
      "2026-10-07T08:00:00Z",
      "2026-10-09T07:59:59Z",
      "2026-10-09T08:00:00Z",
    ];
    expect(await Promise.all(days.map(outsiders))).toEqual([0, 0, 1, 1, 2]);
  });

  test("the first word reaches back to the dates that it gives, and a membership to when it was true", async () => {
    await add("one", [
      { ...head(), asOf: "2026-09-01T08:00:00Z" },
      store("st"),
      person("in", "in@home.example"),
      person("out", "out@quay.example"),
      ...group("crew", "out"),
      item("a", null, { createdAt: "2026-02-01T00:00:00Z" }),
      grant("s", "a", "crew", { grantedAt: "2026-03-01T00:00:00Z" }),
      named("l", "a", ["b@quay.example"], { createdAt: "2026-04-01T00:00:00Z" }),
    ]);
    const days = ["2026-01-31T23:59:59Z", "2026-03-31T23:59:59Z", "2026-04-01T00:00:00Z", "2026-09-01T08:00:00Z"];
    expect(await Promise.all(days.map(outsiders))).toEqual([null, 0, 1, 2]);
  });

  test("whoever has left reached what they did until they left", async () => {
    const left = { status: "left" as const, leftAt: "2026-10-01T00:00:00Z" };
    await add("one", [
      { ...head(), asOf: "2026-01-01T00:00:00Z" },
      store("st"),
      person("in", "in@home.example"),
      person("out", "out@quay.example", left),
      item("a", null),
      grant("s", "a", "out", { grantedAt: "2026-02-01T00:00:00Z" }),
    ]);
    const days = ["2026-09-30T23:59:59Z", "2026-10-01T00:00:00Z", NOW];
    expect(await Promise.all(days.map(outsiders))).toEqual([1, 0, 0]);
  });
});

test("events that a store tells of mean its own things, and an import's may mean anybody's", async () => {
  await add("first", base("f", "First"));
  const event = { type: "event", id: "e", at: NOW, actorId: null, verb: "opened", itemId: "f" };
  await writing(db, (within) => takeEvents(within, "dock", [event]));
  await writing(db, (within) => takeEvents(within, "archive", [event], "anybody's"));
  const rows = await db
    .selectFrom("event")
    .innerJoin("spoken", "spoken.id", "event.item")
    .select(["event.source", "spoken.body"])
    .orderBy("event.seq")
    .execute();
  expect(rows.map(({ source, body }) => [source, JSON.parse(body).name])).toEqual([
    ["dock", "dock:f"],
    ["archive", "First file"],
  ]);
});

test("a database from before is brought up to date, and answers as it did", async () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-old-"));
  const path = join(folder, "latch.sqlite");
  const old = new Kysely<Schema>({ dialect: new SqliteDialect({ database: new SQLite(path) }) });
  const before = await new Migrator({ db: old, provider: { getMigrations: async () => migrations } }).migrateTo(
    "010-approval",
  );
  expect(before.error).toBeUndefined();
  // One store told the people of another's items, as was allowed then.
  const told: [string, EstateRecord][] = [
    ["file", head()],
    ["stacks", store("stacks")],
    ["stacks", person("in", "in@home.example")],
    ["stacks", person("out", "out@quay.example")],
    ...group("crew", "out").map((one): [string, EstateRecord] => ["stacks", one]),
    ["alcoves", store("alcoves")],
    ["alcoves", item("a", null, { storeId: "alcoves", ownerId: "in" })],
    ["alcoves", grant("s", "a", "crew")],
  ];
  for (const [source, record] of told)
    await old
      .insertInto("fact")
      .values({ source, type: record.type, key: recordKey(record), body: JSON.stringify(record), from: null, to: null })
      .execute();
  await old.destroy();
  const own = await appIn(folder);
  const { db: migrated } = own;
  const records = [...currentRecords(migrated)];
  const estate = buildEstate(records);
  expect(exposures(estate, T).at(estate.tree.position("a")!)).toMatchObject({ outsiders: 1, insiders: 1 });
  // What the store tells again means what it meant.
  const again = await here(migrated, "alcoves", [
    item("a", null, { storeId: "alcoves", ownerId: "in" }),
    grant("s", "a", "crew"),
  ]);
  expect(again).toMatchObject([{ ownerId: "in" }, { toId: "crew" }]);
  expect(await importEstate(own, lines([head(["else.example"])]), { as: "file", name: "f" })).toMatchObject({
    otherHome: ["home.example"],
  });
  await own.close();
});
