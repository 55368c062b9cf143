import { setTimeout } from "node:timers/promises";
import type { Problem as LineProblem } from "@/core/estate/placed";
import type { EstateRecord, RecordOf } from "@/core/estate/records";
import { type Db, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { firstHeld, keepFacts, type Seen } from "../records/facts";
import { lastFactOf } from "../records/marks";
import { appendWithin } from "../records/ledger/ledger";
import { beginSource, namedHere } from "../records/names";
import {
  basisOf,
  type Brake,
  type ListGiven,
  type ListOutlook,
  outlookOf,
  type Prepared,
  prepared,
  type Telling,
  toldOf,
} from "./lists";

/** What the person reading in a list has confirmed. */
export interface ListSaid {
  /** The digest of what was shown; null to read it unseen. */
  digest: string | null;
  /** How many may become inactive despite the brake; null if nobody has confirmed that. */
  inactive: number | null;
}

/** Some of what a list changes: records under its directory's own ids, and memberships that are over. */
interface Piece {
  records: EstateRecord[];
  gone: RecordOf<"member">[];
}

/** A reading under way: whether it is its directory's first, since when its facts hold, and the last fact so far. */
interface Begun {
  outlook: ListOutlook;
  isFirst: boolean;
  at: string;
  last: number;
}

/** How many records are written in one transaction; the pause after it lets others write. */
const [AT_ONCE, PAUSE_MS] = [5_000, 20];

/**
 * Reads a list into its directory, some of it at a time. The ledger tells of it with the first; where a reading is cut
 * short, reading the same list again does what is left.
 * @param shown the list worked out, where it has been already
 * @throws where it is stopped by the signal; {Problem} where it has problems, would do something else than was shown, or is held by the brake
 */
export async function takeList(
  db: Db,
  given: ListGiven,
  said: ListSaid,
  actor: string,
  { shown, tell = () => {}, signal }: { shown?: Prepared; tell?: Telling; signal?: AbortSignal } = {},
): Promise<ListOutlook> {
  // It is worked out before the transaction, which would block all other writers, and only checked within it.
  for (let known = shown; ; known = undefined) {
    const worked = known ?? (await prepared(db, given, tell));
    const [first, ...rest] = piecesOf(worked);
    const begun = await writing(db, async (tx) =>
      (await basisOf(tx, given)) === worked.basis ? begin(tx, worked, first, said, actor) : null,
    );
    if (begun === null) continue;
    if ("held" in begun) throw new Problem("conflict", brakeWords(begun.held));
    let done = sizeOf(first);
    for (const piece of rest) {
      tell({ words: "Writing the changes", done });
      await setTimeout(PAUSE_MS, undefined, { signal });
      begun.last = await writing(db, (tx) => goOn(tx, given, begun, piece));
      done += sizeOf(piece);
    }
    return begun.outlook;
  }
}

const sizeOf = ({ records, gone }: Piece) => records.length + gone.length;

/** @returns the reading, or the brake that holds it, which goes into the ledger */
async function begin(
  tx: Tx,
  worked: Prepared,
  piece: Piece,
  said: ListSaid,
  actor: string,
): Promise<Begun | { held: Brake }> {
  const { given, problems, reading } = worked;
  if (!reading) throw new Problem("bad", `${given.file} can’t be read: ${told(problems[0])}`);
  const outlook = await outlookOf(tx, worked);
  if (said.digest !== null && said.digest !== outlook.digest)
    throw new Problem("conflict", "The directory has changed since this was shown. Preview the list again.");
  if (outlook.brake && outlook.brake.inactive !== said.inactive) {
    await appendWithin(tx, actor, "directory-held", { ...toldOf(given), ...outlook.brake });
    return { held: outlook.brake };
  }
  const { same: _, "last-day": lastDay, ...counts } = outlook.counts;
  await appendWithin(tx, actor, "directory-read", { ...toldOf(given), ...counts, lastDay });
  const begun = { outlook, isFirst: await beginSource(tx, given.directory, "directory"), at: tx.clock.text() };
  return { ...begun, last: await keep(tx, given, begun, piece) };
}

async function goOn(tx: Tx, given: ListGiven, begun: Begun, piece: Piece): Promise<number> {
  if (lastFactOf(tx, given.directory) !== begun.last)
    throw new Problem(
      "conflict",
      "The directory has changed meanwhile, so only a part of this list was read. Preview it again.",
    );
  return keep(tx, given, begun, piece);
}

/** @returns the last fact of the directory then */
async function keep(
  tx: Tx,
  { directory }: ListGiven,
  { isFirst, at }: Pick<Begun, "isFirst" | "at">,
  { records, gone }: Piece,
): Promise<number> {
  const named = await namedHere(tx, directory, records, "anybody's");
  const seen: Seen[] = named.map((record) => ({ record, at, since: isFirst ? firstHeld(record, at) : at }));
  await keepFacts(tx, directory, [...seen, ...gone.map((record) => ({ record, at, since: null, gone: true }))]);
  return lastFactOf(tx, directory);
}

/** Only what is new or has changed is named and kept: most people in a list are unchanged. */
function piecesOf({ reading, groups: { fresh, gone } }: Prepared): [Piece, ...Piece[]] {
  const isTurned = new Set(reading?.turns.map(({ address }) => address));
  const records = [...(reading?.people ?? []).filter(({ id }) => isTurned.has(id)), ...fresh];
  const pieces: [Piece, ...Piece[]] = [{ records: records.slice(0, AT_ONCE), gone: gone.slice(0, AT_ONCE) }];
  for (let from = AT_ONCE; from < Math.max(records.length, gone.length); from += AT_ONCE)
    pieces.push({ records: records.slice(from, from + AT_ONCE), gone: gone.slice(from, from + AT_ONCE) });
  return pieces;
}

function brakeWords({ inactive, active }: Brake): string {
  return (
    `Nothing was changed: ${inactive} of the ${active} people who are active here would stop being active. ` +
    "Check that the list is complete. If it is, confirm with their number."
  );
}

function told({ line, message }: LineProblem): string {
  return `line ${line}: ${message}.`;
}
