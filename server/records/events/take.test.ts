import { shownName } from "@/core/text/shown";
import type { App } from "@/server/app";
import { appIn } from "@/tests/app";
import type { EstateRecord, EventRecord } from "@/core/estate/records";
import { REMARKS } from "@/core/trail/event";
import { meets } from "@/core/trail/meets";
import { NOTHING_ASKED } from "@/core/trail/search";
import { type Watch, watchSchema } from "@/core/trail/watch";
import { file, head, item, link, NOW, person, store, T } from "@/tests/records";
import { NAMES } from "@/tests/scripts";
import { type Db, type Tx, writing } from "../../platform/db/open";
import { TrailBook } from "../../engine/trailBook";
import { keepFacts } from "../facts";
import { eventsNewestFirst } from "./events";
import { takeEvents } from "./take";
import { raise } from "../../trail/raising";
import { unansweredAt } from "../../rules/demands";
import { raiseNotYet } from "../../trail/notYet";
import { actorOf } from "@/tests/actor";
import { alertsHandlers } from "../../trail/alertsHandlers";
import { alerts, assign, markSeen, settle } from "../../trail/alerts";
import { saveShipped } from "../../trail/shipped";
import { dropWatch, saveWatch, turnWatches, watches } from "../../trail/watches";

const ASKED = { params: {}, query: undefined, past: undefined, file: undefined, network: "127.0.0.1" };
let app: App;
let db: Db;

const keep = (records: EstateRecord[], at: string) =>
  writing(db, (within) =>
    keepFacts(
      within,
      "st",
      records.map((record) => ({ record, at, since: null })),
    ),
  );
const event = (id: string, more: Partial<EventRecord> = {}): EventRecord => ({
  type: "event",
  id,
  at: NOW,
  actorId: "in",
  verb: "opened",
  itemId: "f",
  shareId: "l",
  ...more,
});
/** Takes events in as a reading does: the watches look at the new ones in the same transaction. */
const take = (...told: unknown[]) =>
  writing(db, async (within) => {
    const { fresh, ...taken } = await takeEvents(within, "st", told);
    return { ...taken, alerts: await raise(within, fresh) };
  });
const page = (search = {}) =>
  new TrailBook(db).events({ search: { ...NOTHING_ASKED, ...search }, count: 50 }).then(({ events }) => events);
const watch = (more: Partial<Watch> = {}): Watch =>
  watchSchema.parse({
    kind: "events",
    search: { ...NOTHING_ASKED, verbs: ["downloaded"] },
    many: null,
    severity: "high",
    mail: ["desk@home.example"],
    webhook: false,
    syslog: false,
    mostADay: 2,
    quiet: null,
    zone: "UTC",
    ...more,
  });
const notices = () => db.selectFrom("notice").select(["state", "due_at"]).orderBy("id").execute();

beforeEach(async () => {
  app = await appIn();
  ({ db } = app);
  const people = [person("in", "in@home.example", { name: "Ines" }), person("out", "out@quay.example")];
  const party = { type: "party" as const, domain: "quay.example", stance: "denied" as const };
  const tour = item("a", null, { name: "Touring", label: "confidential" });
  const named = link("l", "f", { reach: "named", recipients: [{ email: "Out@quay.example" }] });
  await keep([head(), store(), ...people, party, tour, file("f", "a", { name: "Rider" }), named], NOW);
});
afterEach(() => app.close());

test("an event is kept with what it speaks of, and found by all of it", async () => {
  await take(event("1"), event("2", { actorId: null, actorEmail: "out@quay.example", verb: "downloaded" }));
  const [newest, older] = await page();
  expect(older).toMatchObject({
    verb: "opened",
    remarks: [],
    who: { key: "in@home.example", name: "Ines" },
    item: { name: "Rider", detail: "Touring", label: "confidential", path: ["a", "f"] },
    share: { name: "Named link", people: ["out@quay.example"], organisations: ["quay.example"], parties: ["denied"] },
  });
  expect(newest.who).toMatchObject({ name: "Person out", organisations: ["quay.example"] });
  expect(await page({ words: "rid tour" })).toHaveLength(2);
  expect(await page({ words: "ines" })).toHaveLength(1);
  expect(await page({ item: "a", labels: ["confidential"], parties: ["denied"] })).toHaveLength(2);
  expect(await page({ person: "out@quay.example", side: "actor" })).toHaveLength(1);
  expect(await page({ person: "out@quay.example", side: "recipient" })).toHaveLength(2);
  expect(await page({ from: T + 1 })).toEqual([]);
});

test.each(NAMES)("%s: what happened to %s is found however that is typed", async (_, name, ...asked) => {
  await keep([file("h", null, { name })], NOW);
  await take(event("1"), event("2", { itemId: "h", shareId: null }));
  const wordsOfWatch = (words: string) => meets({ ...NOTHING_ASKED, words });
  for (const words of asked) {
    const found = await page({ words });
    expect([words, found.map(({ item: of }) => of?.name)]).toEqual([words, [shownName(name)]]);
    expect([words, (await page()).filter(wordsOfWatch(words)).length]).toEqual([words, 1]);
  }
});

test("what is told of a time stays what it was then, whatever changes later", async () => {
  await take(event("1", { at: "2026-10-04T08:00:00Z" }));
  await keep([file("f", "a", { name: "Rider, signed", label: "restricted" })], "2026-10-05T07:00:00Z");
  await take(event("2"), event("3", { at: "2026-10-03T08:00:00Z" }));
  expect((await page()).map(({ item: of, at }) => [of?.name, of?.label, T - at])).toEqual([
    ["Rider, signed", "restricted", 0],
    ["Rider", "confidential", 86_400],
    ["Rider", "confidential", 2 * 86_400],
  ]);
});

test("events that are doubled count once; told again in other words they are kept beside it", async () => {
  expect(await take(event("1"), event("1"))).toMatchObject({ taken: 1, known: 1, again: 0 });
  const turned = Object.fromEntries(Object.entries(event("1")).reverse());
  expect(await take(turned, event("1", { verb: "downloaded" }))).toMatchObject({ taken: 0, known: 1, again: 1 });
  expect(await page()).toHaveLength(1);
  expect(await db.selectFrom("event_again").select("key").execute()).toEqual([{ key: "1" }]);
});

test("events out of order, with unknown verbs, of things never seen, or unreadable are kept and marked", async () => {
  const odd = { id: "4", at: "yesterday", verb: 7 };
  await take(
    event("1"),
    event("2", { at: "2026-10-01T08:00:00Z" }),
    event("3", { verb: "waved-at", shareId: "nothing" }),
    odd,
    "not even an object",
  );
  const marked = Object.fromEntries((await page()).map(({ seq, remarks }) => [seq, remarks]));
  expect(marked).toEqual({
    1: [],
    2: ["late"],
    3: ["unknown-verb", "unknown-thing"],
    4: ["unreadable"],
    5: ["unreadable"],
  });
  const kept = await db.selectFrom("event").select("body").where("seq", "=", 4).executeTakeFirst();
  expect(JSON.parse(kept!.body)).toEqual(odd);
  // What is ours is nothing odd: tests/undo.test.ts has it.
  expect(REMARKS).toHaveLength(5);
});

test("an event is ours where it names a change that we sent, and by no store's word alone", async () => {
  const told = [event("1", { detail: { change: "sent" } }), event("2", { detail: { change: "made up" } }), event("3")];
  const sent = async (_: unknown, keys: readonly string[]) => new Set(keys.filter((key) => key === "sent"));
  const { fresh } = await writing(db, (within) => takeEvents(within, "st", told, "own", sent));
  expect(fresh.map(({ change, remarks }) => [change, remarks])).toEqual([
    ["sent", ["ours"]],
    [null, []],
    [null, []],
  ]);
});

test("a killed intake leaves nothing, and the next one takes everything", async () => {
  await writing(db, async (within) => {
    await takeEvents(within, "st", [event("1"), event("2")]);
    throw new Error("killed");
  }).catch(() => {});
  expect(await page()).toEqual([]);
  expect(await take(event("1"), event("2"))).toMatchObject({ taken: 2 });
  expect(await page({ words: "rider" })).toHaveLength(2);
});

test("a watch raises one alert for a share and a person, tells of it up to its cap, and holds the rest", async () => {
  await writing(db, (tx) => saveWatch(tx, "imre", { name: "Downloads", watch: watch(), isOn: true, since: T - 3_600 }));
  await take(event("old", { verb: "downloaded", at: "2026-10-05T06:00:00Z" }), event("other"));
  expect(await alerts(db, ["new"])).toEqual([]);
  const by = (n: number) => ({ verb: "downloaded", actorId: null, actorEmail: `p${n}@quay.example` });
  expect(await take(event("a", by(1)), event("b", by(1)), event("c", by(2)))).toMatchObject({ alerts: 2 });
  expect(await take(event("d", by(3)), event("c", by(2)))).toMatchObject({ alerts: 1, known: 1 });
  const open = await alerts(db, ["new"]);
  expect(open.map(({ person: who, count }) => [who, count])).toEqual([
    ["p3@quay.example", 1],
    ["p2@quay.example", 1],
    ["p1@quay.example", 2],
  ]);
  expect(open[0]).toMatchObject({ watch: "Downloads", shareId: "l", itemId: "f", severity: "high" });
  const midnight = T - (T % 86_400) + 86_400;
  expect((await notices()).map(({ state, due_at }) => [state, due_at])).toEqual([
    ["waiting", T],
    ["waiting", T],
    ["held", midnight],
  ]);
});

test("alerts that went out in a digest are no messages of the day", async () => {
  await writing(db, (tx) => saveWatch(tx, "imre", { name: "Downloads", watch: watch(), isOn: true, since: 0 }));
  const by = (n: number) => ({ verb: "downloaded", actorId: null, actorEmail: `p${n}@quay.example` });
  await take(event("a", by(1)), event("b", by(2)));
  const morning = { state: "sent" as const, made_at: T - 3_600, due_at: T - 60 };
  await db.updateTable("notice").set(morning).execute();
  await take(event("c", by(3)), event("d", by(4)), event("e", by(5)));
  expect((await notices()).slice(2).map(({ state }) => state)).toEqual(["waiting", "waiting", "held"]);
});

test("a watch for many in a short time counts over takings, also events that come late", async () => {
  const many = { moreThan: 2, seconds: 3_600, by: "person" as const };
  await writing(db, (tx) =>
    saveWatch(tx, "imre", { name: "Many", watch: watch({ many } as Partial<Watch>), isOn: true, since: 0 }),
  );
  const at = (minute: string) => `2026-10-05T07:${minute}:00Z`;
  await take(event("1", { verb: "downloaded", at: at("10") }), event("2", { verb: "downloaded", at: at("50") }));
  expect(await alerts(db, ["new"])).toHaveLength(0);
  await take(event("3", { verb: "downloaded", at: at("30") }));
  expect(await alerts(db, ["new"])).toHaveLength(0);
  await take(event("4", { verb: "downloaded", at: at("55") }));
  expect(await alerts(db, ["new"])).toHaveLength(1);
});

test("what was expected and has not happened is told once", async () => {
  const telling = { ...watch(), search: undefined, many: undefined };
  const notOpened = watchSchema.parse({ ...telling, kind: "not-opened", days: 2 });
  await writing(db, (tx) => saveWatch(tx, "imre", { name: "Not opened", watch: notOpened, isOn: true, since: 0 }));
  expect([await raiseNotYet(db, unansweredAt), await raiseNotYet(db, unansweredAt)]).toEqual([1, 0]);
  expect((await alerts(db, ["new"]))[0]).toMatchObject({
    person: "out@quay.example",
    shareId: "l",
    words: "out@quay.example hasn’t opened Rider in 2 days",
  });
});

test("alerts are seen, assigned to who may sign in, settled with a note, and opened again", async () => {
  await writing(db, (tx) => saveWatch(tx, "imre", { name: "Downloads", watch: watch(), isOn: true, since: 0 }));
  await take(event("1", { verb: "downloaded" }));
  const [{ id }] = await alerts(db, ["new"]);
  const within = <T>(work: (tx: Tx) => Promise<T>) => writing(db, work);
  expect([await within((tx) => markSeen(tx, id)), await within((tx) => markSeen(tx, id))]).toEqual([true, false]);
  expect(await within((tx) => assign(tx, "imre", id, "nobody@home.example"))).toBe(false);
  expect(await within((tx) => settle(tx, "imre", id, "Asked for it"))).toBe(true);
  expect((await alerts(db, ["settled"]))[0]).toMatchObject({ note: "Asked for it", settledBy: "imre" });
  expect(await take(event("2", { verb: "downloaded" }))).toMatchObject({ alerts: 1 });
  expect(await within((tx) => settle(tx, "imre", id, null))).toBe(true);
  expect(await within((tx) => settle(tx, "imre", 99, "none"))).toBe(false);
  const kinds = await db.selectFrom("ledger").select("kind").orderBy("seq").execute();
  expect(kinds.map(({ kind }) => kind)).toEqual(["watch-made", "alert-settled", "alert-reopened"]);
});

test("many alerts are dealt with at once: all of them or, where one isn't there, none; watches are switched together", async () => {
  const ids = await Promise.all(
    ["Downloads", "Again"].map((name) =>
      writing(db, (tx) => saveWatch(tx, "imre", { name, watch: watch(), isOn: true, since: 0 })),
    ),
  );
  await take(event("1", { verb: "downloaded" }));
  const raised = (await alerts(db, ["new"])).map(({ id }) => id);
  expect(raised).toHaveLength(2);
  const handle = (ids: number[]) => {
    const body = { ids, does: { act: "settle" as const, note: "One of ours" } };
    return alertsHandlers.handleAlerts(app, { ...ASKED, actor: actorOf("imre", "administrator"), body });
  };
  await expect(handle([...raised, 99])).rejects.toThrow("There is no such alert. Alerts lists the others.");
  expect(await alerts(db, ["settled"])).toEqual([]);
  await handle(raised);
  expect((await alerts(db, ["settled"])).map(({ note }) => note)).toEqual(["One of ours", "One of ours"]);
  await writing(db, (tx) => turnWatches(tx, "imre", ids, false));
  expect((await watches(db)).map(({ isOn }) => isOn)).toEqual([false, false]);
  await expect(writing(db, (tx) => turnWatches(tx, "imre", [ids[0], "gone"], true))).rejects.toThrow(
    "One of these watches no longer exists. Nothing was changed.",
  );
  expect((await watches(db)).map(({ isOn }) => isOn)).toEqual([false, false]);
});

test("the shipped watches are kept once, and one that is dropped leaves its alerts", async () => {
  const told = { mail: [], webhook: false, syslog: false, zone: "Europe/Lisbon" };
  const count = await saveShipped(db, "imre", told, 0);
  expect(count).toBeGreaterThan(6);
  expect(await saveShipped(db, "imre", told, 0)).toBe(0);
  await take(event("1", { verb: "shared-named" }));
  expect((await alerts(db, ["new"])).map(({ watch: name }) => name)).toEqual(["Shared with a denied party"]);
  for (const { id } of await watches(db)) await writing(db, (tx) => dropWatch(tx, "imre", id));
  expect((await alerts(db, ["new"]))[0].watch).toBeNull();
});

test("sorted on disk, a span's events are those that the trail finds in it, in the same order", async () => {
  const seconds = [5, 1, 3, 3, 9, 0, 3, 7];
  await take(...seconds.map((second, i) => event(`sorted-${i}`, { at: `2026-02-01T00:00:0${second}Z` })));
  await take(event("sorted-unknown", { at: "2026-02-01T00:00:03Z", itemId: "never-seen", actorId: "nobody" }));
  const [from, to] = ["2026-02-01T00:00:01Z", "2026-02-01T00:00:09Z"].map((at) => Date.parse(at) / 1_000);
  const pieces = [];
  for await (const piece of eventsNewestFirst(db, from, to)) pieces.push(...piece);
  expect(pieces).toEqual(await page({ from, to }));
  expect(pieces.map(({ at }) => at - from)).toEqual([6, 4, 2, 2, 2, 2, 0]);
});
