import SQLite from "better-sqlite3";
import { sql } from "kysely";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { performance } from "node:perf_hooks";
import type { EstateRecord, EventRecord } from "../core/estate/records";
import { wordsIn } from "../core/text/text";
import { DAY, rfc3339 } from "../core/time/instant";
import { NOTHING_ASKED, type TrailSearch } from "../core/trail/search";
import { type Watch, watchSchema } from "../core/trail/watch";
import { Random } from "../demo/random";
import { type Db, openDatabase, writing } from "../server/platform/db/open";
import { TrailBook } from "../server/engine/trailBook";
import { keepFacts } from "../server/records/facts";
import { takeEvents } from "../server/records/events/take";
import { saveWatch } from "../server/trail/watches";
import type { Report } from "./report";
import { timed } from "./timing";

const TAKEN = 200_000;
const BATCH = 1_000;
const PIECE = 50_000;
const ITEMS = 50_000;
const PEOPLE = 3_000;
const QUERIES = 200;
const WARM_UPS = 20;
const BEGINS = 1_735_689_600;
const VERBS = ["opened", "opened", "opened", "downloaded", "shared-open", "shared-named", "revoked", "refused"];
const WORDS = "tour rider score budget plan letter minutes cue stage quay ferry lantern beacon voyage harbour".split(
  " ",
);

/** Events of two years: taken in with fifty watches on, searched and counted, beside the same as bare SQL. */
export async function measureTrail(report: Report, events: number) {
  const folder = mkdtempSync(join(tmpdir(), "latch-trail-"));
  const path = join(folder, "latch.sqlite");
  const db = await openDatabase(path);
  const add = (what: string, value: number, unit: "ms" | "rows/s", wanted: number | null = null) =>
    report.add({ size: events, what, value, unit, wanted, isAsked: true });
  const random = new Random(5);
  await fillTrail(db, random);
  add("intake with fifty watches on, of things never spoken of", await intakeEvents(db, random, events, 0), "rows/s");
  add("intake with fifty watches on", await intakeEvents(db, random, events, TAKEN / 2), "rows/s", 20_000);
  await copyEventsUpTo(db, random, events);
  const book = new TrailBook(db);
  const began = performance.now();
  await book.catchUp();
  add("all events read into columns, once", performance.now() - began, "ms");
  await measureSearch(book, path, report, events, random);
  await measureCounts(book, add, random);
  await db.destroy();
  rmSync(folder, { recursive: true });
}

export async function fillTrail(db: Db, random: Random) {
  const name = () => `${random.pick(WORDS)} ${random.pick(WORDS)} ${random.between(1, 999)}`;
  const made = rfc3339(BEGINS);
  const records: EstateRecord[] = [
    { type: "estate", version: 1, asOf: made, homeDomains: ["home.example"] },
    ...Array.from({ length: PEOPLE }, (_, i): EstateRecord => {
      const domain = i % 3 === 0 ? `org${i % 200}.example` : "home.example";
      return { type: "person", id: `p${i}`, email: `person${i}@${domain}`, name: `Person ${i}`, status: "active" };
    }),
    ...Array.from({ length: ITEMS }, (_, i): EstateRecord => {
      const about = { storeId: `s${i % 3}`, ownerId: null, inherits: true, createdAt: made, modifiedAt: made };
      const label = i % 7 === 0 ? "confidential" : null;
      const parentId = i < 30 ? null : `i${i % 30}`;
      return {
        type: "item",
        id: `i${i}`,
        kind: i < 30 ? "folder" : "file",
        parentId,
        name: name(),
        label,
        state: "live",
        ...about,
      };
    }),
  ];
  for (let from = 0; from < records.length; from += PIECE)
    await writing(db, (within) =>
      keepFacts(
        within,
        "s0",
        records.slice(from, from + PIECE).map((record) => ({ record, at: made, since: null })),
      ),
    );
  for (let i = 0; i < 50; i++)
    await writing(db, (within) =>
      saveWatch(within, "bench", { name: `Watch ${i}`, watch: someWatch(random, i), isOn: true, since: 0 }),
    );
}

/** Fifty of all kinds; what they find is rare, as with watches that somebody can live with. */
function someWatch(random: Random, i: number): Watch {
  const search = {
    ...NOTHING_ASKED,
    verbs: [random.pick(["copy-sent", "password-removed", "shared-open", "downloaded"])],
    words: i % 2 === 0 ? `${random.pick(WORDS)} ${random.pick(WORDS)} ${random.between(1, 999)}` : "",
    labels: i % 3 === 0 ? ["confidential"] : [],
    person: i % 2 === 1 ? `person${i}@home.example` : null,
  };
  const many = i % 5 === 0 ? { moreThan: 20, seconds: 3_600, by: "person" as const } : null;
  const telling = { severity: "low", mail: [], webhook: false, syslog: false, mostADay: 20, quiet: null, zone: "UTC" };
  return watchSchema.parse({ kind: "events", search, many, ...telling });
}

/** @returns events a second */
export async function intakeEvents(db: Db, random: Random, events: number, first: number): Promise<number> {
  const step = (2 * 365 * DAY) / events;
  const eventsTold = Array.from({ length: TAKEN / 2 }, (_, n): EventRecord => {
    const i = first + n;
    const [actorId, itemId] = [`p${random.between(0, PEOPLE - 1)}`, `i${random.between(0, ITEMS - 1)}`];
    return {
      type: "event",
      id: `a${i}`,
      at: rfc3339(BEGINS + Math.floor(i * step)),
      actorId,
      itemId,
      verb: random.pick(VERBS),
    };
  });
  const began = performance.now();
  for (let from = 0; from < eventsTold.length; from += BATCH)
    await writing(db, (within) => takeEvents(within, "s0", eventsTold.slice(from, from + BATCH)));
  return eventsTold.length / ((performance.now() - began) / 1000);
}

/** The rest go straight into the table, like those that are there: it is searching that is measured on them. */
export async function copyEventsUpTo(db: Db, random: Random, events: number) {
  const kinds = await sql<{ kind: string; ids: string }>`
    select body ->> '$.kind' as kind, group_concat(id) as ids from spoken group by 1`.execute(db);
  const ids = (kind: string): number[] => JSON.parse(`[${kinds.rows.find((row) => row.kind === kind)!.ids}]`);
  const [people, items] = [ids("person"), ids("item")];
  const step = (2 * 365 * DAY) / events;
  for (let from = TAKEN; from < events; from += PIECE) {
    const rows = Array.from({ length: Math.min(PIECE, events - from) }, (_, i) => {
      const at = BEGINS + Math.floor((from + i) * step);
      return [
        from + i + 1,
        at,
        `s${random.between(0, 2)}`,
        random.pick(VERBS),
        random.pick(people),
        random.pick(items),
      ];
    });
    await sql`insert into event (seq, at, source, key, verb, who, item, share, whom, remarks, body)
      select value ->> 0, value ->> 1, value ->> 2, 'b' || (value ->> 0), value ->> 3, value ->> 4, value ->> 5, 0, 0, 0, '{}'
      from json_each(${JSON.stringify(rows)})`.execute(db);
  }
}

async function measureSearch(book: TrailBook, path: string, report: Report, events: number, random: Random) {
  const bare = new SQLite(path);
  // Every event with its words, in the order of time, as one would begin with.
  bare.exec(`create virtual table bare using fts5 (words, content = '', tokenize = "unicode61 remove_diacritics 2")`);
  const words = new Map<number, string>();
  for (const { id, body } of bare.prepare("select id, body from spoken").all() as { id: number; body: string }[]) {
    const { name, detail } = JSON.parse(body);
    words.set(id, wordsIn(`${name} ${detail}`).join(" "));
  }
  const put = bare.prepare("insert into bare (rowid, words) values (?, ?)");
  const rows = bare.prepare("select seq, who, item from event where seq > ? order by seq limit 50000");
  for (let after = 0; after < events; after += PIECE)
    bare.transaction(() => {
      for (const { seq, who, item } of rows.all(after) as { seq: number; who: number; item: number }[])
        put.run(seq, `${words.get(who)} ${words.get(item)}`);
    })();
  const page = bare
    .prepare(
      `select event.seq from bare cross join event on event.seq = bare.rowid
    where bare match ? and event.verb = ? and event.source = ? order by bare.rowid desc limit 50`,
    )
    .pluck();
  const asked = Array.from({ length: QUERIES + WARM_UPS }, (): TrailSearch => {
    const text = random.chance(0.5)
      ? `person${random.between(0, PEOPLE - 1)}`
      : `${random.pick(WORDS)} ${random.between(1, 99)}`;
    return { ...NOTHING_ASKED, words: text, verbs: [random.pick(VERBS)], stores: [`s${random.between(0, 2)}`] };
  });
  const ours = await timed(QUERIES, (run) => book.events({ search: asked[run + WARM_UPS], count: 50 }), WARM_UPS);
  const theirs = (run: number) => {
    const { words: text, verbs, stores } = asked[run + WARM_UPS];
    const match = wordsIn(text)
      .map((word) => `"${word}" *`)
      .join(" ");
    return page.all(match, verbs[0], stores[0]) as number[];
  };
  const baseline = await timed(QUERIES, theirs, WARM_UPS);
  for (let run = 0; run < QUERIES; run++) {
    const found = (await book.events({ search: asked[run + WARM_UPS], count: 50 })).events.map(({ seq }) => seq);
    if (found.join() !== theirs(run).join()) throw new Error(`${asked[run + WARM_UPS].words}: SQLite finds others`);
  }
  const what = "words and two filters, first page in order of time";
  const beside = { what: "the same as SQL in better-sqlite3", value: baseline.p95, wantedRatio: 0.67 };
  report.add({ size: events, what: `${what}, median`, value: ours.median, unit: "ms", wanted: null, isAsked: true });
  report.add({ size: events, what: `${what}, p95`, value: ours.p95, unit: "ms", wanted: 30, isAsked: true });
  report.add({ size: events, what: `${what}, p95`, value: ours.p95, unit: "ms", wanted: null, baseline: beside });
  bare.close();
}

async function measureCounts(
  book: TrailBook,
  add: (what: string, value: number, unit: "ms", wanted?: number) => void,
  random: Random,
) {
  const plain = (): Partial<TrailSearch> => {
    const from = BEGINS + random.between(0, 600) * DAY;
    const verbs = random.chance(0.5) ? [random.pick(VERBS)] : [];
    return { from, to: from + random.between(1, 400) * DAY, verbs, stores: random.chance(0.3) ? ["s1"] : [] };
  };
  const any = (): Partial<TrailSearch> => ({
    ...(random.chance(0.5) ? plain() : {}),
    words: random.chance(0.5) ? random.pick(WORDS) : "",
    labels: random.chance(0.5) ? ["confidential"] : [],
    person: random.chance(0.3) ? `person${random.between(0, 900) * 3 + 1}@home.example` : null,
  });
  for (const [what, make, wanted] of [
    ["histogram and counts by verb: dates, verbs and stores", plain, 30],
    ["histogram and counts by verb: any search", any, 300],
  ] as const) {
    const asked = Array.from({ length: QUERIES + WARM_UPS }, () => ({ ...NOTHING_ASKED, ...make() }));
    const ask = (run: number) => book.eventCounts({ search: asked[run + WARM_UPS], zone: "Europe/Lisbon" });
    add(`${what}, p95`, (await timed(QUERIES, ask, WARM_UPS)).p95, "ms", wanted);
  }
  const facets = await timed(20, () => book.eventFacets({ search: NOTHING_ASKED }), 2);
  add("all other facets of everything, median", facets.median, "ms");
}
