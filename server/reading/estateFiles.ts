import { readEstateFile, type EstateFile, recordLine } from "@/core/estate/estateFile";
import type { EstateRecord, ItemRecord } from "@/core/estate/records";
import type { IdSpace, Known } from "@/core/estate/references";
import { forgetSpeaking, takeActs } from "../trail/intake";
import { bodiesInPieces } from "../trail/kept";
import { nowText } from "../clock";
import { type Db, writing } from "../db/open";
import { tickOff } from "../dockets/byHand";
import { appendWithin } from "../ledger/ledger";
import { currentRecords, keepFacts, madeAt } from "./facts";

/** The source of facts that came from a file and not from a store. */
const FILE = "file";
const ACTS_AT_ONCE = 1_000;

export interface ImportResult extends EstateFile {
  /** Null where nothing was imported because of problems. */
  changed: number | null;
}

/**
 * Adds an estate file to what is known. It may refer to what is known already. While it has problems
 * nothing of it is imported, unless `lenient`: then the bad records are skipped.
 */
export async function importEstate(
  db: Db,
  lines: Iterable<string>,
  name: string,
  lenient: boolean,
): Promise<ImportResult> {
  const file = readEstateFile(lines, { known: await knownFrom(currentRecords(db)) });
  if (file.problems.length > 0 && !lenient) return { ...file, changed: null };
  const at = nowText();
  const events = file.records.filter(({ type }) => type === "event");
  const seen = file.records
    .filter(({ type }) => type !== "event")
    .map((record) => ({ record, at, since: madeAt(record) }));
  const changed = await writing(db, async (within) => {
    const kept = await keepFacts(within, FILE, seen);
    let acts = 0;
    for (let from = 0; from < events.length; from += ACTS_AT_ONCE)
      acts += (await takeActs(within, FILE, events.slice(from, from + ACTS_AT_ONCE))).taken;
    const ticked = await tickOff(within, `The import of ${name}`);
    const records = file.records.length;
    await appendWithin(within, "import", "file-imported", { name, records, changed: kept, acts, ticked });
    return kept + acts;
  }).catch((error: Error) => {
    forgetSpeaking(db);
    throw error;
  });
  return { ...file, changed };
}

async function knownFrom(records: AsyncIterable<EstateRecord>): Promise<Known> {
  const ids: Record<IdSpace, Set<string>> = {
    store: new Set(),
    person: new Set(),
    group: new Set(),
    principal: new Set(),
    item: new Set(),
  };
  const items = new Map<string, ItemRecord>();
  for await (const record of records) {
    if (record.type === "item") items.set(record.id, record);
    if (record.type === "store" || record.type === "person" || record.type === "group" || record.type === "item")
      ids[record.type].add(record.id);
    if (record.type === "person" || record.type === "group") ids.principal.add(record.id);
  }
  return { has: (space, id) => ids[space].has(id), item: (id) => items.get(id) };
}

/** The order in which an export gives its records, so that references point backwards where they can. */
const ORDER: EstateRecord["type"][] = [
  "estate",
  "store",
  "person",
  "group",
  "member",
  "item",
  "grant",
  "link",
  "party",
  "engagement",
];

/** The whole estate as it is now, a line a record. Addresses are live secrets: left out unless asked for. */
export async function* exportEstate(db: Db, withAddresses: boolean): AsyncGenerator<string> {
  for (const type of ORDER) {
    const rows = await db
      .selectFrom("fact")
      .select("body")
      .where("to", "is", null)
      .where("type", "=", type)
      .orderBy("key")
      .execute();
    for (const { body } of rows) {
      const record = JSON.parse(body) as EstateRecord;
      yield recordLine(type === "estate" ? ({ ...record, asOf: nowText() } as EstateRecord) : record, {
        withAddresses,
      });
    }
  }
  for await (const piece of bodiesInPieces(db)) yield* piece;
}
