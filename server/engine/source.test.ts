import { existsSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathsTo } from "@/core/access/paths";
import { Standing } from "@/core/access/standing";
import type { EstateRecord } from "@/core/estate/records";
import { rfc3339, seconds } from "@/core/time/instant";
import { file, grant, group, head, item, link, NOW, person, store, T } from "@/tests/records";
import { type Db, openDatabase, writing } from "../platform/db/open";
import { keepFacts } from "../records/facts";
import { takeEvents } from "../records/events/take";
import { decidedIn } from "../decided";
import { copied } from "./begun";
import type { Keeping } from "./snapshot";
import { currentSource, pastSource, type Source } from "./source";

let db: Db;
let path: string;

const crew = [
  { type: "group" as const, id: "crew", name: "Crew", storeId: "st" },
  ...group("crew", "out").slice(1),
] as EstateRecord[];
const records: EstateRecord[] = [
  head(),
  store(),
  person("out", "out@quay.example"),
  ...crew,
  item("a", null),
  file("f", "a"),
  grant("g", "a", "crew"),
  link("l", "f", { address: "https://dock.example/l/SECRET" }),
];
const keep = (seen: EstateRecord[], at: string, gone = false) =>
  writing(db, (within) =>
    keepFacts(
      within,
      "st",
      seen.map((record) => ({ record, at, since: at, gone })),
    ),
  );
const ways = ({ estate }: Standing) =>
  pathsTo(estate, T, estate.principals.findAddress("out@quay.example")!, estate.tree.position("f")!).map(
    ({ share }) => share,
  );

let keeping: Keeping;
beforeEach(async () => {
  path = join(mkdtempSync(join(tmpdir(), "latch-source-")), "latch.sqlite");
  keeping = { path: `${path}.columns`, build: "this" };
  db = await openDatabase(path);
  await keep(records, "2026-10-01T00:00:00Z");
});
afterEach(() => db.destroy());

const pastAt = async (at: string) =>
  pastSource(db, decidedIn(db), copied(await currentSource(db, keeping, decidedIn(db)).begin(), seconds(at)));

async function standingOf(source: Source) {
  const standing = new Standing((await source.begin()).estate);
  standing.apply(await source.changes());
  return standing;
}

test("what changed since the last look is what is new, changed, or no more; and each is told once", async () => {
  const source = currentSource(db, keeping, decidedIn(db));
  const standing = await standingOf(source);
  expect(ways(standing)).toEqual(["g", "l"]);
  await keep([link("l", "f", { revokedAt: NOW })], NOW);
  await keep([crew[1]], NOW, true);
  const changes = await source.changes();
  const patch = { put: [...changes.put], removed: [...changes.removed] };
  expect([patch.put.length, patch.removed]).toEqual([1, [crew[1]]]);
  standing.apply(patch);
  expect(ways(standing)).toEqual([]);
  const { put, removed } = await source.changes();
  expect([[...put], removed]).toEqual([[], []]);
});

test("columns are kept anew once much has come in", async () => {
  const source = currentSource(db, keeping, decidedIn(db));
  const begun = await source.begin();
  const isKept = async () => {
    await source.changes();
    await source.keep(begun);
    return existsSync(keeping.path);
  };
  await keep(
    Array.from({ length: 100 }, (_, i) => file(`few${i}`, "a")),
    NOW,
  );
  expect(await isKept()).toBe(false);
  await keep(
    Array.from({ length: 25_000 }, (_, i) => file(`many${i}`, "a")),
    NOW,
  );
  expect(await source.behind()).toBe(25_000);
  expect([await isKept(), await source.behind()]).toEqual([true, 0]);
});

test("a membership that ended and began again is told as one that is", async () => {
  const source = currentSource(db, keeping, decidedIn(db));
  const standing = await standingOf(source);
  await keep([crew[1]], NOW, true);
  await keep([crew[1]], NOW);
  standing.apply(await source.changes());
  expect(ways(standing)).toContain("g");
});

test("a use that is told of later than a past instant is taken from the trail there, or is unknown", async () => {
  const told = (records: EstateRecord[]) =>
    writing(db, (within) =>
      keepFacts(
        within,
        "st",
        records.map((record) => ({ record, at: NOW, since: "2026-09-01T00:00:00Z" })),
      ),
    );
  await told([
    file("h", null),
    ...["seen", "unseen"].map((id) => link(id, "h", { lastUsedAt: "2026-10-04T08:00:00Z" })),
  ]);
  await told([link("before", "h", { lastUsedAt: "2026-09-02T08:00:00Z" }), link("never", "h", { lastUsedAt: null })]);
  const event = (id: string, at: string, verb: string) => ({
    ...{ type: "event", id, at, actorId: null, verb, itemId: "h", shareId: "seen" },
  });
  await writing(db, (within) =>
    takeEvents(within, "st", [
      event("1", "2026-10-01T08:00:00Z", "opened"),
      event("2", "2026-10-01T09:00:00Z", "downloaded"),
      event("3", "2026-10-01T10:00:00Z", "expiry-set"),
      event("4", "2026-10-04T08:00:00Z", "opened"),
    ]),
  );
  const { estate } = await (await pastAt("2026-10-02T00:00:00Z")).begin();
  const used = ["seen", "unseen", "before", "never"].map((id) => {
    const share = estate.share(id)!;
    return [id, share.isUseKnown, share.isUseKnown && share.lastUsed && rfc3339(share.lastUsed)];
  });
  expect(used).toEqual([
    ["seen", true, "2026-10-01T09:00:00Z"],
    ["unseen", false, false],
    ["before", true, "2026-09-02T08:00:00Z"],
    ["never", true, null],
  ]);
});

test("a past instant is as it was, with the record that held then; its address comes with the record alone", async () => {
  await keep([link("l", "f", { revokedAt: NOW, address: "https://dock.example/l/SECRET" })], NOW);
  const past = await pastAt("2026-10-03T00:00:00Z");
  expect(ways(await standingOf(past))).toEqual(["g", "l"]);
  expect(await past.record("l")).toMatchObject({ address: "https://dock.example/l/SECRET" });
  expect((await past.record("l"))!.revokedAt).toBeUndefined();
  expect(await currentSource(db, keeping, decidedIn(db)).record("l")).toMatchObject({ revokedAt: NOW });
  expect(await past.record("nothing")).toBeNull();
});
