import { normaliseAddress, isHomeDomain, domainOf } from "@/core/estate/address";
import { believed, type Sourced } from "@/core/estate/believed";
import type { Problem as LineProblem } from "@/core/estate/placed";
import type { PersonRecord } from "@/core/estate/records";
import { type ListKind, readPeopleList } from "@/core/directory/list";
import { type ListReading, type Outcome, readingOf, type Turn } from "@/core/directory/reading";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { beliefIn, knownSources } from "../records/belief";
import { firstHeld, keepFacts, recordsOfType, type Seen } from "../records/facts";
import { homeDomains } from "../records/homeDomains";
import { appendWithin } from "../records/ledger/ledger";
import { beginSource, namedHere } from "../records/names";
import { leftAfterDays } from "./leftAfter";
import { digestOf, type GroupChanges, groupChanges, toldBy } from "./told";

/** A list as somebody gives it: of which directory, of what it is, and what the file is called. */
export interface ListGiven {
  directory: string;
  kind: ListKind;
  file: string;
  text: string;
}

/** What reading a list would make of its directory. */
export interface ListOutlook {
  /** While there are any, nothing of the list is read. */
  problems: LineProblem[];
  remarks: LineProblem[];
  counts: Record<Outcome, number>;
  turns: Turn[];
  /** How many memberships in groups begin, and end. */
  joined: number;
  gone: number;
  /** So many of those active here would be so no more that somebody has to say that it is right. */
  brake: Brake | null;
  /** Stands for all of this: what is read is what was shown. */
  digest: string;
}
export interface Brake {
  inactive: number;
  active: number;
}

/** A reading that would leave inactive more than a tenth of those who are active here, and so many at least, waits. */
const [MOST_SHARE, LEAST_MANY] = [0.1, 20];
/** More of them are counted and not told. */
const MOST_TOLD = 500;

interface Prepared {
  outlook: ListOutlook;
  reading: ListReading | null;
  groups: GroupChanges;
}

/** What a list would change. Nothing is. @throws {Problem} where its directory's name is another source's */
export async function listOutlook(db: Db, given: ListGiven): Promise<ListOutlook> {
  return (await prepared(db, given)).outlook;
}

/**
 * Reads a list into its directory.
 * @param digest of what was shown; null to read whatever it is, where nobody looks
 * @param inactive how many may be left inactive although the brake holds; null where nobody has said so
 * @throws {Problem} where it has problems, would do something else than was shown, or is held by the brake
 */
export async function takeList(
  db: Db,
  given: ListGiven,
  { digest, inactive }: { digest: string | null; inactive: number | null },
  actor: string,
): Promise<ListOutlook> {
  const held = await writing(db, async (tx) => {
    const { outlook, reading, groups } = await prepared(tx, given);
    if (!reading) throw new Problem("bad", `${given.file} can’t be read: ${told(outlook.problems[0])}`);
    if (digest !== null && digest !== outlook.digest)
      throw new Problem("conflict", "The directory has changed since this was shown. Preview the list again.");
    if (outlook.brake && outlook.brake.inactive !== inactive) {
      await appendWithin(tx, actor, "directory-held", { ...of(given), ...outlook.brake });
      return { outlook, isHeld: true };
    }
    await keep(tx, given, reading, groups);
    const { same: _, "last-day": lastDay, ...counts } = outlook.counts;
    await appendWithin(tx, actor, "directory-read", { ...of(given), ...counts, lastDay });
    return { outlook, isHeld: false };
  });
  if (held.isHeld) throw new Problem("conflict", brakeWords(held.outlook.brake!));
  return held.outlook;
}

export function brakeWords({ inactive, active }: Brake): string {
  return (
    `Nothing was changed: ${inactive} of the ${active} people who are active here would stop being active. ` +
    "Check that the list is complete. If it is, confirm with their number."
  );
}

function of({ directory, kind, file }: ListGiven) {
  return { directory, list: kind, file };
}

function told({ line, message }: LineProblem): string {
  return `line ${line}: ${message}.`;
}

async function prepared(db: Reads, given: ListGiven): Promise<Prepared> {
  const known = (await knownSources(db)).find(({ name }) => name === given.directory);
  if (known && known.kind !== "directory")
    throw new Problem("conflict", `directory: ${given.directory} is the name of another source. Choose another name.`);
  const before = await toldBy(db, given.directory);
  const list = readPeopleList(given.text);
  const problems = list.problems.slice(0, MOST_TOLD);
  if (problems.length > 0) {
    const counts = {} as Record<Outcome, number>;
    const nothing = { remarks: [], counts, turns: [], joined: 0, gone: 0, brake: null, digest: "" };
    return { reading: null, groups: { fresh: [], joined: 0, gone: [] }, outlook: { problems, ...nothing } };
  }
  const [t, days] = [db.clock.seconds(), await leftAfterDays(db)];
  const reading = readingOf(list, before.people, { kind: given.kind, t, leftAfterDays: days });
  const { counts, turns } = reading;
  const brake = await brakeOn(db, reading.inactive);
  const groups = groupChanges(reading, before);
  const members = { joined: groups.joined, gone: groups.gone.length };
  const digest = digestOf([of(given), given.text, turns, members, brake]);
  const shown = { remarks: reading.remarks.slice(0, MOST_TOLD), turns: turns.slice(0, MOST_TOLD) };
  return { reading, groups, outlook: { problems: [], ...shown, counts, ...members, brake, digest } };
}

/** Only insiders who are active now, whoever is believed, can be left inactive. */
async function brakeOn(db: Reads, addresses: readonly string[]): Promise<Brake | null> {
  if (addresses.length < LEAST_MANY) return null;
  const active = await activeInsiders(db);
  const inactive = addresses.filter((address) => active.has(address)).length;
  return inactive >= LEAST_MANY && inactive > active.size * MOST_SHARE ? { inactive, active: active.size } : null;
}

async function activeInsiders(db: Reads): Promise<Set<string>> {
  const home = await homeDomains(db);
  const belief = await beliefIn(db);
  const records = new Map<string, Sourced<PersonRecord>[]>();
  for await (const person of recordsOfType(db, "person")) {
    const address = normaliseAddress(person.email);
    const known = records.get(address);
    if (known) known.push(person);
    else records.set(address, [person]);
  }
  const isActive = ([address, of]: [string, Sourced<PersonRecord>[]]) =>
    isHomeDomain(domainOf(address), home) && believed(of, belief).status === "active";
  return new Set([...records].filter(isActive).map(([address]) => address));
}

/** Only what is new or has changed is named and kept: of most people a list says what it has said before. */
async function keep(tx: Tx, { directory }: ListGiven, { people, turns }: ListReading, { fresh, gone }: GroupChanges) {
  const isFirst = await beginSource(tx, directory, "directory");
  const isTurned = new Set(turns.map(({ address }) => address));
  const changed = [...people.filter(({ id }) => isTurned.has(id)), ...fresh];
  const named = await namedHere(tx, directory, changed, "anybody's");
  const at = tx.clock.text();
  const seen: Seen[] = named.map((record) => ({ record, at, since: isFirst ? firstHeld(record, at) : at }));
  await keepFacts(tx, directory, [...seen, ...gone.map((record) => ({ record, at, since: null, gone: true }))]);
}
