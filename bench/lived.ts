import { createWriteStream } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import type { EstateRecord, ItemRecord, LinkRecord, PersonRecord } from "../core/estate/records";
import { DAY, rfc3339, type Seconds } from "../core/time/instant";
import { openDatabase, writing } from "../server/platform/db/open";
import { keepFacts } from "../server/records/facts";
import { generateEstate } from "./generate";

/** So long the house has gone on since it was imported; each day as much is changed, so that in the end a tenth has been. */
export const LIVED_DAYS = 60;
const CHANGED = 0.1;
/** As many moved items, and people who left, for so many shares that changed. */
const SHARES_A_MOVE = 20;
const SHARES_A_LEAVER = 200;
const SHARES_A_MEMBER = 50;

/** Writes an estate's file. @returns where it is, how many records there are, and of which instant it tells */
export async function writeEstate(data: string, size: number) {
  const file = join(data, "estate.jsonl");
  const out = createWriteStream(file);
  let records = 0;
  let asOf: Seconds = 0;
  for (const record of generateEstate(size, 1, size / 4)) {
    records++;
    if (record.type === "estate") asOf = Date.parse(record.asOf) / 1_000;
    if (!out.write(`${JSON.stringify(record)}\n`)) await once(out, "drain");
  }
  out.end();
  await once(out, "finish");
  return { file, records, asOf };
}

/**
 * Tells of what has changed day by day since an estate was imported: a tenth of the shares, with some items that moved,
 * people who left, and memberships that began or ended.
 * @returns how many facts came
 */
export async function live(path: string, size: number, source: string, asOf: Seconds): Promise<number> {
  const days = Array.from({ length: LIVED_DAYS }, (): { record: EstateRecord; gone: boolean }[] => []);
  let shares = 0;
  let folder: ItemRecord | undefined;
  for (const record of generateEstate(size, 1, size / 4)) {
    if (record.type === "item" && record.kind === "folder") folder ??= record;
    const isShare = record.type === "link" || record.type === "grant";
    if (isShare) shares++;
    const turn = Math.floor(1 / CHANGED);
    if (isShare && shares % turn === 0) add(days, shares / turn, changed(record as LinkRecord, asOf));
  }
  let [items, people, members] = [0, 0, 0];
  const changes = (shares * CHANGED) / LIVED_DAYS;
  const every = (count: number, wanted: number) => Math.max(1, Math.floor(count / (wanted * LIVED_DAYS)));
  for (const record of generateEstate(size, 1, size / 4)) {
    if (record.type === "item" && record.kind === "file" && items++ % every(size, changes / SHARES_A_MOVE) === 0)
      add(days, items, { ...record, parentId: folder!.id });
    if (record.type === "person" && people++ % every(size / 50, changes / SHARES_A_LEAVER) === 0)
      add(days, people, { ...record, status: "left", leftAt: rfc3339(asOf + DAY) });
    if (record.type === "member" && members++ % every(size / 40, changes / SHARES_A_MEMBER) === 0)
      add(days, members, record, true);
  }
  const db = await openDatabase(path);
  let facts = 0;
  for (const [day, told] of days.entries()) {
    const at = rfc3339(asOf + (day + 1) * DAY);
    facts += await writing(db, (tx) =>
      keepFacts(
        tx,
        source,
        told.map(({ record, gone }) => ({ record, at, since: at, gone })),
      ),
    );
  }
  await db.destroy();
  return facts;
}

/** Tells of one thing that has changed. */
export async function tell(path: string, source: string, record: EstateRecord, at: Seconds) {
  const db = await openDatabase(path);
  const seen = { record, at: rfc3339(at), since: rfc3339(at) };
  await writing(db, (tx) => keepFacts(tx, source, [seen]));
  await db.destroy();
}

/** Changes by turns: a file that is moved elsewhere and back, and a person who leaves and returns. */
export function someChanges(size: number): { moved: EstateRecord[]; left: EstateRecord[] } {
  let person: EstateRecord | undefined;
  let folder: ItemRecord | undefined;
  for (const record of generateEstate(size, 1, size / 4)) {
    if (record.type === "person") person ??= record;
    if (record.type !== "item") continue;
    if (record.kind === "file" && folder && record.parentId !== folder.id)
      return {
        moved: [{ ...record, parentId: folder.id }, record],
        left: [{ ...(person as PersonRecord), status: "left" }, person!],
      };
    if (record.kind === "folder") folder ??= record;
  }
  throw new Error("there is nothing to move");
}

function add(days: { record: EstateRecord; gone: boolean }[][], turn: number, record: EstateRecord, gone = false) {
  days[turn % LIVED_DAYS].push({ record, gone });
}

function changed(share: LinkRecord, asOf: Seconds): EstateRecord {
  return share.expiresAt === null
    ? { ...share, expiresAt: rfc3339(asOf + 200 * DAY) }
    : { ...share, download: !share.download };
}
