import { byText } from "../text/text";
import { seconds, type Seconds } from "../time/instant";
import type { EstateRecord, PersonRecord } from "./records";

/**
 * A record and whose word it is; without a source where there is but one. Of a store also whether it is read and
 * changed over its own interface, so that it has to know whom a change names. Where it comes from the database, since
 * when it has held; null is "since before we looked".
 */
export type Sourced<R extends EstateRecord = EstateRecord> = R & {
  source?: string;
  isRead?: boolean;
  heldSince?: string | null;
};

/** Under this name stands what was set in the application itself. */
export const SETTINGS = "settings";

/** Names of sources, those that are believed first before the others. Sources that it leaves out come last, by name. */
export type Belief = readonly string[];

type OfSource = Pick<Sourced, "source">;

/** Compares records by whom to believe first: what was set here, then the order of belief; never who spoke first. */
export function byBelief(belief: Belief): (a: OfSource, b: OfSource) => number {
  const ranks = new Map(belief.map((name, rank) => [name, rank]));
  const rank = ({ source = "" }: OfSource) => (source === SETTINGS ? -1 : (ranks.get(source) ?? belief.length));
  return (a, b) => rank(a) - rank(b) || byText(a.source ?? "", b.source ?? "");
}

/** What sources may tell of a person, each for itself. */
export const TOLD = ["name", "status", "department", "managerId", "leftAt"] as const;
export type Told = (typeof TOLD)[number];

/** What is believed of a person. */
export interface Believed {
  /** The record that gives the person's id: of the first source by name, so that it stays whoever is believed. */
  first: Sourced<PersonRecord>;
  name: string;
  status: PersonRecord["status"];
  department: string | null;
  managerId: string | null;
  /** Their last instant here, past or to come; null where nobody tells it. */
  leftAt: Seconds | null;
  /** Of whoever isn't active: since when they are suspended, where whoever tells their status tells that. */
  suspendedAt: Seconds | null;
  /** By what is told: whose word it is. */
  from: Partial<Record<Told, Sourced<PersonRecord>>>;
}

/**
 * What is believed of one person of whom several records speak: for each thing, the first source that tells it. Within
 * a source they are active if any of its records says so.
 * @param records of one address, at least one; those of a file in its order
 */
export function believed(records: readonly Sourced<PersonRecord>[], belief: Belief): Believed {
  const sorted = records.length === 1 ? records : inOrderOf(belief, records);
  const ofFirst = sorted.filter(({ source }) => source === sorted[0].source);
  const from: Believed["from"] = {
    name: sorted.find(({ name }) => name !== ""),
    status: ofFirst.find(({ status }) => status === "active") ?? sorted[0],
    department: sorted.find(({ department }) => department != null),
    managerId: sorted.find(({ managerId }) => managerId != null),
    leftAt: sorted.find(({ leftAt }) => leftAt != null),
  };
  const { suspendedAt } = from.status!;
  return {
    first: records.length === 1 ? records[0] : inOrderOf([], records)[0],
    name: from.name?.name ?? sorted[0].email,
    status: from.status!.status,
    department: from.department?.department ?? null,
    managerId: from.managerId?.managerId ?? null,
    leftAt: from.leftAt?.leftAt == null ? null : seconds(from.leftAt.leftAt),
    suspendedAt: suspendedAt == null ? null : seconds(suspendedAt),
    from,
  };
}

/**
 * By belief, and of one source by their ids: which of them was told first, or changed last, says nothing. A file that
 * stands alone has no source, and an order of its own.
 */
function inOrderOf(belief: Belief, records: readonly Sourced<PersonRecord>[]): Sourced<PersonRecord>[] {
  const byWhom = byBelief(belief);
  return [...records].sort((a, b) => byWhom(a, b) || (a.source === undefined ? 0 : a.id < b.id ? -1 : 1));
}
