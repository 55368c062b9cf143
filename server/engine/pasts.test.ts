import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { EstateRecord } from "@/core/estate/records";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { file, grant, head, item, link, person, store, T } from "@/tests/records";
import { decidedIn } from "../decided";
import { type Db, openDatabase, writing } from "../platform/db/open";
import { saveText } from "../platform/saved";
import { takeEvents } from "../records/events/take";
import { firstHeld, keepFacts } from "../records/facts";
import { Pasts } from "./pasts";
import type { Keeping } from "./snapshot";
import { currentSource } from "./source";

let db: Db;
let pasts: Pasts;
/** Where the days that were counted are kept. */
let keeping: Keeping;
/** How often the present was begun with, which takes long in a large estate. */
let begun: number;

const long = rfc3339(T - 90 * DAY);
const records: EstateRecord[] = [
  head(),
  store(),
  person("out", "out@quay.example"),
  item("a", null, { createdAt: long }),
  file("f", "a", { createdAt: long }),
  grant("g", "a", "out", { grantedAt: long }),
  link("l", "f", { createdAt: long }),
];
const keep = (records: EstateRecord[], at: Seconds, gone = false) =>
  writing(db, (within) =>
    keepFacts(
      within,
      "st",
      records.map((record) => ({ record, at: rfc3339(at), since: firstHeld(record, rfc3339(at)), gone })),
    ),
  );
/** As after a start of the application. */
async function startedAgain(build = "this"): Promise<Pasts> {
  const decided = decidedIn(db);
  const present = currentSource(db, { path: "no columns", build: "" }, decided);
  const begin = () => {
    begun++;
    return present.begin();
  };
  const again = new Pasts(db, decided, { ...present, begin }, { ...keeping, build });
  await again.start();
  return again;
}
const daysBefore = (days: number) => T - days * DAY;
const liveOn = async (t: Seconds) => (await (await pasts.at(t)).counts({ queries: ["state:live outside:yes"] }, t))[0];
const instants = [30, 20, 10, 5, 1].map(daysBefore);
const counted = async () =>
  (await pasts.history({ instants })).map(({ open, named, person, group }) => open + named + person + group);

beforeEach(async () => {
  const folder = mkdtempSync(join(tmpdir(), "latch-pasts-"));
  db = await openDatabase(join(folder, "latch.sqlite"));
  keeping = { path: join(folder, "days"), build: "this" };
  begun = 0;
  await keep(records, daysBefore(60));
  pasts = await startedAgain();
});
afterEach(() => db.destroy());

test("a past that nothing reaches stays as it was built, and counts of days too", async () => {
  const built = await pasts.at(daysBefore(5));
  expect(await counted()).toEqual([2, 2, 2, 2, 2]);
  const told = await pasts.history({ instants });
  await pasts.refresh();
  await keep([link("l", "f", { createdAt: long, revokedAt: rfc3339(T) })], T);
  await pasts.refresh();
  expect(await pasts.at(daysBefore(5))).toBe(built);
  expect((await pasts.history({ instants })).every((one, i) => one === told[i])).toBe(true);
});

test("what reaches a past has it built again, from that day on and not before", async () => {
  const [long, lately] = [await pasts.at(daysBefore(20)), await pasts.at(daysBefore(1))];
  expect(await counted()).toEqual([2, 2, 2, 2, 2]);
  // A link that was made nine days ago, and is told of today.
  await keep([link("later", "f", { createdAt: rfc3339(daysBefore(9)) })], T);
  await pasts.refresh();
  expect(await pasts.at(daysBefore(20))).toBe(long);
  expect(await pasts.at(daysBefore(1))).not.toBe(lately);
  expect([await liveOn(daysBefore(20)), await liveOn(daysBefore(1))]).toEqual([2, 3]);
  expect(await counted()).toEqual([2, 2, 2, 3, 3]);
});

test("what ends in the past reaches it as well, and what has no beginning reaches all of it", async () => {
  await pasts.at(daysBefore(1));
  expect(await counted()).toEqual([2, 2, 2, 2, 2]);
  await keep([grant("g", "a", "out", { grantedAt: long })], daysBefore(7), true);
  await pasts.refresh();
  expect([await liveOn(daysBefore(1)), await liveOn(daysBefore(10))]).toEqual([1, 2]);
  expect(await counted()).toEqual([2, 2, 2, 1, 1]);
  await keep([{ ...person("out", "out@quay.example"), status: "left" } as EstateRecord], daysBefore(25));
  await pasts.refresh();
  expect(await counted()).toEqual(await Promise.all(instants.map(liveOn)));
});

test("a use that is told late reaches the day of which it tells; whom to believe first reaches all days", async () => {
  const day = daysBefore(5);
  const built = await pasts.at(day);
  const used = (id: string, at: Seconds) =>
    ({ type: "event", id, at: rfc3339(at), actorId: null, verb: "opened", itemId: "f", shareId: "l" }) as never;
  await writing(db, (tx) => takeEvents(tx, "st", [used("e1", daysBefore(2))]));
  await pasts.refresh();
  expect(await pasts.at(day)).toBe(built);
  await writing(db, (tx) => takeEvents(tx, "st", [used("e2", daysBefore(8))]));
  await pasts.refresh();
  expect(await pasts.at(day)).not.toBe(built);
  const anew = await pasts.at(day);
  for (const name of ["directory", "st"])
    await db.insertInto("source").values({ name, kind: "store", first_told_at: long }).execute();
  await pasts.refresh();
  await saveText(db, "", "belief", JSON.stringify(["st", "directory"]));
  await pasts.refresh();
  expect(await pasts.at(day)).not.toBe(anew);
});

test("the three that were asked last are held", async () => {
  const first = await pasts.at(daysBefore(1));
  await pasts.at(daysBefore(2));
  await pasts.at(daysBefore(3));
  expect(await pasts.at(daysBefore(1))).toBe(first);
  const second = await pasts.at(daysBefore(2));
  await pasts.at(daysBefore(4));
  expect(await pasts.at(daysBefore(1))).toBe(first);
  expect(await pasts.at(daysBefore(2))).toBe(second);
});

describe("days that were counted before a start", () => {
  const countedAgain = async (build?: string) => {
    pasts = await startedAgain(build);
    begun = 0;
    return [await counted(), begun];
  };

  test("are told without anything being built, until something reaches them", async () => {
    expect(await counted()).toEqual([2, 2, 2, 2, 2]);
    expect(await countedAgain()).toEqual([[2, 2, 2, 2, 2], 0]);
    await keep([link("later", "f", { createdAt: rfc3339(daysBefore(9)) })], T);
    expect(await countedAgain()).toEqual([[2, 2, 2, 3, 3], 1]);
    expect(await countedAgain()).toEqual([[2, 2, 2, 3, 3], 0]);
  });

  test("are counted again by another build, in another database, and where their file is broken", async () => {
    expect(await counted()).toEqual([2, 2, 2, 2, 2]);
    expect(await countedAgain("another")).toEqual([[2, 2, 2, 2, 2], 1]);
    const kept = readFileSync(keeping.path);
    writeFileSync(keeping.path, kept.subarray(0, kept.length - 1));
    expect(await countedAgain("another")).toEqual([[2, 2, 2, 2, 2], 1]);
    const elsewhere = mkdtempSync(join(tmpdir(), "latch-pasts-"));
    await db.destroy();
    db = await openDatabase(join(elsewhere, "latch.sqlite"));
    await keep([...records, link("more", "f", { createdAt: long })], daysBefore(60));
    expect(await countedAgain("another")).toEqual([[3, 3, 3, 3, 3], 1]);
  });
});
