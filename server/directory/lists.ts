import { normaliseAddress, isHomeDomain, domainOf } from "@/core/estate/address";
import { believed, type Sourced } from "@/core/estate/believed";
import type { Problem as LineProblem } from "@/core/estate/placed";
import type { PersonRecord } from "@/core/estate/records";
import { type ListKind, readPeopleList } from "@/core/directory/list";
import { type ListReading, type Outcome, readingOf, type Turn } from "@/core/directory/reading";
import type { Db, Reads } from "../platform/db/open";
import { Problem } from "../platform/problem";
import type { Step } from "../platform/thread";
import { beliefIn, knownSources } from "../records/belief";
import { recordsOfType } from "../records/facts";
import { toldSoFar } from "../records/marks";
import { homeDomains } from "../records/homeDomains";
import { leftAfterDays } from "./leftAfter";
import { digestOf, type GroupChanges, groupChanges, toldBy } from "./told";

/** A list as it is given: its directory, what it lists, and the name of its file. */
export interface ListGiven {
  directory: string;
  kind: ListKind;
  file: string;
  text: string;
}

/** What reading a list would do to its directory. */
export interface ListOutlook {
  /** If there are any, nothing is read. */
  problems: LineProblem[];
  remarks: LineProblem[];
  counts: Record<Outcome, number>;
  turns: Turn[];
  /** How many memberships in groups begin, and end. */
  joined: number;
  gone: number;
  /** So many of those active here would become inactive that somebody has to confirm it. */
  brake: Brake | null;
  /** A digest of all of this: what is read is what was shown. */
  digest: string;
}
export interface Brake {
  inactive: number;
  active: number;
}

/** A reading that would make more than a tenth of the active people inactive, and at least so many, waits. */
const [MOST_SHARE, LEAST_MANY] = [0.1, 20];
/** Any more are only counted. */
const MOST_TOLD = 500;

/** Says how far a list is. */
export type Telling = (step: Step) => void;

/** A list worked out: what it would do to its directory, valid while that is unchanged. */
export interface Prepared {
  given: ListGiven;
  problems: LineProblem[];
  /** Null where the list has problems. */
  reading: ListReading | null;
  groups: GroupChanges;
  /** The state that this was worked out from: while it is unchanged, this is still right. */
  basis: string;
}

/** What a list would change; nothing is changed. @throws {Problem} where its directory's name is another source's */
export async function listOutlook(db: Db, given: ListGiven): Promise<ListOutlook> {
  return outlookOf(db, await prepared(db, given));
}

/** A list as it appears in the ledger. */
export function toldOf({ directory, kind, file }: ListGiven) {
  return { directory, list: kind, file };
}

/** Works a list out. @throws {Problem} where its directory's name is another source's */
export async function prepared(db: Reads, given: ListGiven, tell: Telling = () => {}): Promise<Prepared> {
  const basis = await basisOf(db, given);
  tell({ words: "Reading the list", done: 0 });
  const list = readPeopleList(given.text);
  tell({ words: "Comparing people with the directory", done: list.rows.length });
  const before = await toldBy(db, given.directory);
  const problems = list.problems.slice(0, MOST_TOLD);
  if (problems.length > 0) return { given, problems, reading: null, groups: { fresh: [], joined: 0, gone: [] }, basis };
  const [t, days] = [db.clock.seconds(), await leftAfterDays(db)];
  const reading = readingOf(list, before.people, { kind: given.kind, t, leftAfterDays: days });
  return { given, problems, reading, groups: groupChanges(reading, before), basis };
}

/** What its directory has said, and after how many days somebody has left. @throws {Problem} where it is no directory */
export async function basisOf(db: Reads, { directory }: ListGiven): Promise<string> {
  const known = (await knownSources(db)).find(({ name }) => name === directory);
  if (known && known.kind !== "directory")
    throw new Problem("conflict", `directory: ${directory} is the name of another source. Choose another name.`);
  return [toldSoFar(db, directory), await leftAfterDays(db)].join();
}

export async function outlookOf(db: Reads, { given, problems, reading, groups }: Prepared): Promise<ListOutlook> {
  if (!reading) {
    const nothing = { counts: {} as Record<Outcome, number>, turns: [], joined: 0, gone: 0, brake: null, digest: "" };
    return { problems, remarks: [], ...nothing };
  }
  const { counts, turns } = reading;
  const brake = await brakeOn(db, reading.inactive);
  const members = { joined: groups.joined, gone: groups.gone.length };
  const digest = digestOf([toldOf(given), given.text, turns, members, brake]);
  const shown = { remarks: reading.remarks.slice(0, MOST_TOLD), turns: turns.slice(0, MOST_TOLD) };
  return { problems: [], ...shown, counts, ...members, brake, digest };
}

/** Only insiders who are active now, by whichever source is believed, can become inactive. */
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
