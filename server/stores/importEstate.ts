import { z } from "zod";
import { type EstateFile, inOrder, parseEstateFile } from "@/core/estate/estateFile";
import type { Placed, Problem } from "@/core/estate/placed";
import type { Line } from "@/core/estate/lines";
import type { EstateRecord } from "@/core/estate/records";
import { checkReferences } from "@/core/estate/references";
import { forgetSpeaking, takeEvents } from "../records/events/take";
import { type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { connections } from "./connections";
import { beginFacts, firstHeld, keepFacts, type Seen } from "../records/facts";
import { homeDomains, offerHomeDomains } from "../records/homeDomains";
import { knownTo } from "../records/known";
import type { Listeners, Reading } from "./listeners";
import { beginSource, namedHere } from "../records/names";

const EVENTS_AT_ONCE = 1_000;

/** The source that an import speaks for, named by whoever imports: the same word each time. */
export const sourceNameSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, "must be 1 to 40 lower-case letters, digits and hyphens, such as archive")
  .refine((name) => name !== "settings", { error: "is reserved; choose another" });

export interface Imported extends Omit<EstateFile, "records"> {
  /** How many records and events are new or changed; null where nothing was imported because of problems. */
  changed: number | null;
  /** Those that hold, where the file has others. They change in the settings only. */
  otherHome: string[] | null;
}

/** Rolls back a transaction. */
class Refused extends Error {
  constructor(readonly problems: Problem[]) {
    super("the file has problems");
  }
}

/**
 * Adds an estate file to what is known. It may refer to what is known already; the estate is checked as it would be
 * afterwards. While it has problems nothing of it is imported, unless `lenient`: then the bad records are skipped.
 * @param given `as` whose word the file is; `name` what the file is called
 */
export async function importEstate(
  app: Reading,
  lines: Iterable<Line>,
  { as, name, lenient = false }: { as: string; name: string; lenient?: boolean },
): Promise<Imported> {
  const { placed, ...file } = parseEstateFile(lines);
  const refuses = (problems: readonly Problem[]) => problems.length > 0 && !(lenient && !file.isHeadless);
  const refused = (problems: Problem[]) => ({ ...file, problems, changed: null, otherHome: null });
  if (refuses(file.problems) && file.isHeadless) return refused(file.problems);
  try {
    return await writing(app.db, async (within) => {
      const { good, problems } = await checked(within, as, placed);
      const all = inOrder([...file.problems, ...problems]);
      if (refuses(all)) throw new Refused(all);
      return { ...file, problems: all, ...(await keepImport(app, within, { as, name, ...good })) };
    });
  } catch (error) {
    // What was looked up in a transaction that came to nothing may not hold.
    forgetSpeaking(app.db);
    if (error instanceof Refused) return refused(error.problems);
    throw error;
  }
}

/** The records under their names here, without those that can't stand with what is known. */
async function checked(db: Tx, as: string, placed: readonly Placed[]) {
  const read = new Map((await connections(db)).map(({ id, name }) => [id, name]));
  const problems: Problem[] = [];
  const own = placed.filter(({ line, record }) => {
    if (record.type !== "store" || !read.has(record.id)) return true;
    problems.push({ line, message: `store ${record.id} is read from the store itself and can’t be imported` });
    return false;
  });
  const named = await namedHere(
    db,
    as,
    own.map(({ record }) => record),
    "anybody's",
  );
  const known = await knownTo(db, as, read);
  const { good, problems: broken } = checkReferences(
    own.map((one, i) => (named[i] === one.record ? one : { line: one.line, record: named[i] })),
    known,
  );
  const goodEvents = new Set(good.filter(({ record }) => record.type === "event").map(({ line }) => line));
  return {
    good: {
      records: good.map(({ record }) => record).filter(({ type }) => type !== "event"),
      // Events are kept as they were told, and named where they are taken in.
      events: own
        .filter(({ line, record }) => record.type === "event" && goodEvents.has(line))
        .map(({ record }) => record),
    },
    problems: [...problems, ...broken],
  };
}

async function keepEvents(listeners: Listeners, db: Tx, as: string, events: readonly EstateRecord[]): Promise<number> {
  const { taken, fresh } = await takeEvents(db, as, events, "anybody's", listeners.ours);
  await listeners.events(db, fresh);
  return taken;
}

async function keepImport(
  { listeners }: Reading,
  db: Tx,
  { as, name, records, events }: { as: string; name: string; records: EstateRecord[]; events: EstateRecord[] },
) {
  const isFirst = await beginSource(db, as, "import");
  const head = records.find((record) => record.type === "estate")!;
  const isHome = await offerHomeDomains(db, head);
  const at = db.clock.text();
  const asOf = head.asOf < at ? head.asOf : at;
  // One after the other: there are very many.
  const seen = function* (isMeant: (record: EstateRecord) => boolean): Generator<Seen> {
    for (const record of records)
      if (record.type !== "estate" && isMeant(record))
        yield { record, at, since: isFirst ? firstHeld(record, asOf) : at };
  };
  // A file has each thing once, but for memberships: of a first file, only those need be looked for.
  const mayBeThere = ({ type }: EstateRecord) => !isFirst || type === "member";
  const once = seen((record) => !mayBeThere(record));
  const kept = beginFacts(db, as, once) + (await keepFacts(db, as, seen(mayBeThere)));
  let happened = 0;
  for (let from = 0; from < events.length; from += EVENTS_AT_ONCE)
    happened += await keepEvents(listeners, db, as, events.slice(from, from + EVENTS_AT_ONCE));
  const ticked = await listeners.imported(db, `The import of ${name}`);
  await appendWithin(db, "import", "file-imported", {
    ...{ name, as, records: records.length + events.length, changed: kept, events: happened, ticked },
  });
  return { changed: kept + happened, otherHome: isHome ? null : await homeDomains(db) };
}
