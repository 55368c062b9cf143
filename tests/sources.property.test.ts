import fc from "fast-check";
import { exposures } from "@/core/access/exposure";
import { pathsTo } from "@/core/access/paths";
import { readEstateFile, recordLine } from "@/core/estate/estateFile";
import { buildEstate, type Estate } from "@/core/estate/estate";
import { SPACE_OF, withIds } from "@/core/estate/naming";
import { type EstateRecord, recordKey } from "@/core/estate/records";
import { rfc3339, seconds } from "@/core/time/instant";
import type { Db } from "@/server/platform/db/open";
import { exportEstate } from "@/server/records/exportEstate";
import { currentRecords } from "@/server/records/facts";
import { recordsAt } from "./pastFacts";
import { importEstate } from "@/server/stores/importEstate";
import type { App } from "@/server/app";
import { appIn } from "./app";
import { anyInstant, estates, items, members, shares } from "./randomEstates";
import { head, item, link, T } from "./records";
import { SlowModel } from "./slowModel";

// A database for each of some dozens of pairs of sources, and a slow model of each.
jest.setTimeout(120_000);

/** With a maker whom the file knows. */
const made = <R extends EstateRecord>(record: R): R =>
  record.type === "grant"
    ? { ...record, grantedBy: "p0" }
    : record.type === "link"
      ? { ...record, createdBy: "p0" }
      : record;
const files = estates.map((records) => records.map(made));

async function gathered<R>(records: AsyncIterable<R>): Promise<R[]> {
  const all: R[] = [];
  for await (const record of records) all.push(record);
  return all;
}

const exported = async (db: Db) =>
  (await gathered(exportEstate(db))).map((record) => recordLine(record, { withAddresses: true }));
const without = (lines: string[]) => lines.slice(1);
const add = (app: App, as: string, records: readonly EstateRecord[], lenient = false) =>
  importEstate(
    app,
    records.map((record) => JSON.stringify(record)),
    { as, name: as, lenient },
  );

/** What the engine says of every item, and of every person and item, beside what the slow model says. */
function compare(estate: Estate, records: readonly EstateRecord[], t: number) {
  const slow = new SlowModel(records);
  const all = exposures(estate, t);
  for (const one of records) {
    if (one.type !== "item") continue;
    const position = estate.tree.position(one.id)!;
    const expected = slow.exposure(one.id, t);
    if (expected === null) expect(all.at(position)).toBeNull();
    else expect([one.id, all.at(position)]).toMatchObject([one.id, expected]);
    for (const address of slow.addresses) {
      const person = estate.principals.findAddress(address)!;
      const ways = pathsTo(estate, t, person, position).map(({ share }) => share);
      expect([one.id, address, ways]).toEqual([one.id, address, slow.ways(address, one.id, t, false)]);
    }
  }
}

/** The records of the later of two sources, as they have to be known beside those of the first. */
function beside(first: readonly EstateRecord[], later: readonly EstateRecord[], source: string): EstateRecord[] {
  const taken = new Set(
    first.flatMap((one) => (SPACE_OF[one.type] ? [`${SPACE_OF[one.type]} ${recordKey(one)}`] : [])),
  );
  return later.map((one) => withIds(one, (space, id) => (taken.has(`${space} ${id}`) ? `${source}:${id}` : id)));
}

test("two sources with the same ids answer as two estates that share nothing but their people", async () => {
  await fc.assert(
    fc.asyncProperty(files, files, fc.oneof(fc.constant(T), anyInstant), async (first, second, t) => {
      const app = await appIn();
      const { db } = app;
      for (const [as, records] of [
        ["a", first],
        ["b", second],
      ] as const)
        expect((await add(app, as, records)).problems).toEqual([]);
      // People of the second source are believed after those of the first, which are the same.
      const own = beside(first, second, "b").filter(({ type }) => type !== "estate");
      const silent = own.map((one) => (one.type === "person" ? { ...one, status: "left" as const } : one));
      const estate = buildEstate(currentRecords(db));
      compare(estate, [...first, ...silent], t);
      const lines = await exported(db);
      expect(readEstateFile(lines).problems).toEqual([]);
      const again = await appIn();
      await importEstate(again, lines, { as: "c", name: "c" });
      expect(without(await exported(again.db))).toEqual(without(lines));
      await Promise.all([app.close(), again.close()]);
    }),
    { numRuns: 40 },
  );
});

/** Anything that an import could say of a known estate, good or bad. */
const news = fc.array(
  fc.oneof(
    fc.tuple(fc.nat(11), shares).map(([n, make]): EstateRecord => make(n)),
    fc.tuple(fc.integer({ min: 1, max: 9 }), items).map(([n, make]): EstateRecord => make(n)),
    fc.tuple(fc.nat(8), fc.nat(9)).map(([n, parent]): EstateRecord => item(`i${n}`, parent > 8 ? null : `i${parent}`)),
    fc.nat(8).map((n): EstateRecord => item(`i${n}`, null, { kind: "file" })),
    // A link by the id of a grant, and on what isn't there.
    fc.nat(5).map((n): EstateRecord => link(`s${n}`, "i0", { createdBy: "p0" })),
    fc.nat(9).map((n): EstateRecord => link(`l${n}`, `i${n + 4}`, { createdBy: "p0" })),
    members,
  ),
  { minLength: 1, maxLength: 6 },
);

test("whatever is imported over what is known, the whole stays one that validate takes, and the past as it was", async () => {
  let [refused, kept] = [0, 0];
  await fc.assert(
    fc.asyncProperty(
      files,
      fc.array(fc.tuple(news, fc.boolean()), { minLength: 1, maxLength: 3 }),
      async (records, told) => {
        const app = await appIn();
        const { db, clock } = app;
        await add(app, "a", records);
        const past: [string, string[]][] = [];
        for (const [n, [more, lenient]] of told.entries()) {
          const before = await exported(db);
          const now = rfc3339(T + 3_600 * (n + 1));
          past.push([rfc3339(T + 3_600 * (n + 1) - 1), without(before)]);
          clock.standsAt = new Date(now);
          const { problems, changed } = await add(app, "a", [head(), ...more.map(made)], lenient);
          const lines = await exported(db);
          expect(readEstateFile(lines).problems).toEqual([]);
          if (problems.length > 0) refused++;
          else kept++;
          if (changed === null) expect(without(lines)).toEqual(without(before));
          const good = readEstateFile(lines).records;
          compare(buildEstate(currentRecords(db)), good, seconds(now));
        }
        for (const [at, lines] of past) {
          const then = await gathered(exportEstate(db, { at }));
          expect(without(then.map((record) => recordLine(record, { withAddresses: true })))).toEqual(lines);
          compare(buildEstate(await recordsAt(db, at), seconds(at)), then, seconds(at));
        }
        await app.close();
      },
    ),
    { numRuns: 60 },
  );
  expect([refused > 20, kept > 20]).toEqual([true, true]);
});
