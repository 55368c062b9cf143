import { isMailAddress } from "../estate/mailAddress";
import type { Problem } from "../estate/placed";
import type { GroupRecord, PersonRecord, RecordOf } from "../estate/records";
import { DAY, rfc3339, seconds, type Seconds } from "../time/instant";
import type { ListKind, ListRow, PeopleList } from "./list";

/** What a directory has said about a person, under its own ids. */
export type ToldPerson = Pick<
  PersonRecord,
  "email" | "name" | "status" | "department" | "managerId" | "leftAt" | "suspendedAt"
>;

/** What a reading can do to a person. */
export const OUTCOMES = ["joins", "returns", "leaves", "suspended", "last-day", "changes", "same"] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** One person about whom a reading says something new. */
export interface Turn {
  address: string;
  name: string;
  outcome: Outcome;
  /** What changes, where the outcome alone doesn't say it. */
  words: string;
}

/** What a list makes of its directory. */
export interface ListReading {
  people: PersonRecord[];
  /** What the list says of groups; null where it says nothing. */
  groups: { groups: GroupRecord[]; members: RecordOf<"member">[] } | null;
  /** Everybody about whom something new is said, in the order of the outcomes. */
  turns: Turn[];
  counts: Record<Outcome, number>;
  /** Addresses of people whom the directory has called active and who would no longer be. */
  inactive: string[];
  remarks: Problem[];
}

interface Moment {
  kind: ListKind;
  t: Seconds;
  /** People suspended for longer than so many days have left. */
  leftAfterDays: number;
}

/**
 * What a list says, on top of what its directory has said before. Anybody who is no longer in a list of people
 * has left now; a list of leavers is only about the people in it. Where a list has no column, the old value stays.
 * @param before by address
 */
export function readingOf(list: PeopleList, before: ReadonlyMap<string, ToldPerson>, moment: Moment): ListReading {
  const rows = new Map(list.rows.map((row) => [row.address, row]));
  const told = new Map<string, ToldPerson>();
  for (const [address, row] of rows) told.set(address, toldBy(row, before.get(address), moment));
  if (moment.kind === "people")
    for (const [address, one] of before) if (!rows.has(address)) told.set(address, gone(one, moment.t));
  const turns = [...told].map(([address, now]) => turnOf(address, before.get(address), now, moment.t));
  const counts = Object.fromEntries(OUTCOMES.map((outcome) => [outcome, 0])) as Record<Outcome, number>;
  for (const { outcome } of turns) counts[outcome]++;
  const rank = ({ outcome }: Turn) => OUTCOMES.indexOf(outcome);
  return {
    people: [...told].map(([address, one]) => ({ type: "person", id: address, ...one })),
    groups: list.hasGroups && moment.kind === "people" ? groupsOf(list.rows) : null,
    turns: turns.filter(({ outcome }) => outcome !== "same").sort((a, b) => rank(a) - rank(b)),
    counts,
    inactive: [...told]
      .filter(([address, { status }]) => before.get(address)?.status === "active" && status !== "active")
      .map(([address]) => address),
    remarks: [...list.remarks, ...oddManagers(list.rows, told)].sort((a, b) => a.line - b.line),
  };
}

function toldBy(row: ListRow, before: ToldPerson | undefined, { kind, t, leftAfterDays }: Moment): ToldPerson {
  const lastDay = row.lastDay !== undefined ? row.lastDay : lastDayBefore(before, t);
  const { status, leftAt, suspendedAt } = standing(row, lastDay, before, { kind, t, leftAfterDays });
  return {
    email: row.address,
    name: row.name ?? before?.name ?? "",
    status,
    department: row.department !== undefined ? row.department : (before?.department ?? null),
    managerId: row.manager !== undefined ? managerId(row.manager) : (before?.managerId ?? null),
    leftAt: leftAt === null ? null : rfc3339(leftAt),
    suspendedAt: suspendedAt === null ? null : rfc3339(suspendedAt),
  };
}

/** A last day in the future is kept; a past one is from before they came back. */
function lastDayBefore(before: ToldPerson | undefined, t: Seconds): Seconds | null {
  const known = before?.leftAt ? seconds(before.leftAt) : null;
  return known !== null && known > t ? known : null;
}

/** @param lastDay as it is known now */
function standing(
  row: ListRow,
  lastDay: Seconds | null,
  before: ToldPerson | undefined,
  { kind, t, leftAfterDays }: Moment,
) {
  const wasLeftAt = before?.status === "left" && before.leftAt ? seconds(before.leftAt) : null;
  const hasLeft = row.status === "left" || (kind === "leavers" && !row.status && lastDay === null);
  if (hasLeft) return { status: "left" as const, leftAt: lastDay ?? wasLeftAt ?? t, suspendedAt: null };
  if (row.status === "suspended") {
    const wasSuspendedAt = before?.suspendedAt ? seconds(before.suspendedAt) : null;
    const suspendedAt = row.suspendedOn ?? wasSuspendedAt ?? t;
    return { status: suspendedFor(suspendedAt, t, leftAfterDays), leftAt: lastDay, suspendedAt };
  }
  const isOver = lastDay !== null && lastDay <= t;
  return { status: isOver ? ("left" as const) : ("active" as const), leftAt: lastDay, suspendedAt: null };
}

/** Many directories suspend people and never delete them, so a long suspension counts as having left. */
function suspendedFor(suspendedAt: Seconds, t: Seconds, leftAfterDays: number): "left" | "suspended" {
  return suspendedAt + leftAfterDays * DAY <= t ? "left" : "suspended";
}

/** What was said, brought up to now: a last day may be over, or a suspension have lasted too long. */
export function agedTo(t: Seconds, told: ToldPerson, leftAfterDays: number): ToldPerson {
  if (told.suspendedAt) return { ...told, status: suspendedFor(seconds(told.suspendedAt), t, leftAfterDays) };
  const isOver = told.status === "active" && told.leftAt && seconds(told.leftAt) <= t;
  return isOver ? { ...told, status: "left" } : told;
}

function gone(one: ToldPerson, t: Seconds): ToldPerson {
  if (one.status === "left" && !one.suspendedAt) return one;
  const lastDay = one.leftAt ? seconds(one.leftAt) : null;
  return { ...one, status: "left", leftAt: rfc3339(lastDay === null ? t : Math.min(lastDay, t)), suspendedAt: null };
}

function managerId(address: string | null): string | null {
  return address === null ? null : `mailto:${address}`;
}

function turnOf(address: string, before: ToldPerson | undefined, now: ToldPerson, t: Seconds): Turn {
  const turn = (outcome: Outcome, words = ""): Turn => ({ address, name: now.name || address, outcome, words });
  if (before && isSame(before, now)) return turn("same");
  if (!before) return now.status === "active" ? turn("joins") : turn(now.status === "left" ? "leaves" : "suspended");
  if (before.status !== now.status) {
    if (now.status === "active") return turn("returns");
    return turn(now.status === "left" ? "leaves" : "suspended");
  }
  if (now.status === "active" && before.leftAt !== now.leftAt && now.leftAt && seconds(now.leftAt) > t)
    return turn("last-day", `last day ${now.leftAt.slice(0, 10)}`);
  return turn("changes", changesBetween(before, now));
}

function isSame(before: ToldPerson, now: ToldPerson): boolean {
  return (
    before.status === now.status &&
    before.name === now.name &&
    (before.department ?? null) === (now.department ?? null) &&
    (before.managerId ?? null) === (now.managerId ?? null) &&
    (before.leftAt ?? null) === (now.leftAt ?? null) &&
    (before.suspendedAt ?? null) === (now.suspendedAt ?? null)
  );
}

function changesBetween(before: ToldPerson, now: ToldPerson): string {
  const of = (word: string, was: string | null | undefined, is: string | null | undefined) =>
    (was ?? null) === (is ?? null) ? [] : [`${word}: ${plain(was)} → ${plain(is)}`];
  return [
    ...of("name", before.name, now.name),
    ...of("department", before.department, now.department),
    ...of("manager", before.managerId, now.managerId),
    ...of("last day", before.leftAt?.slice(0, 10), now.leftAt?.slice(0, 10)),
    ...of("suspended on", before.suspendedAt?.slice(0, 10), now.suspendedAt?.slice(0, 10)),
  ].join("; ");
}

function plain(value: string | null | undefined): string {
  return value ? value.replace(/^mailto:/, "") : "none";
}

function groupsOf(rows: readonly ListRow[]) {
  const names = new Set(rows.flatMap(({ groups }) => groups ?? []));
  return {
    groups: [...names].map((name): GroupRecord => {
      const record: GroupRecord = { type: "group", id: groupId(name), name };
      return isMailAddress(name) ? { ...record, email: name } : record;
    }),
    members: rows.flatMap(({ address, groups }) =>
      [...new Set(groups)].map((name) => ({ type: "member" as const, groupId: groupId(name), memberId: address })),
    ),
  };
}

function groupId(name: string): string {
  return `group:${name}`;
}

/** Managers about whom nothing is known, and circles of managers. Both are kept as they are. */
function oddManagers(rows: readonly ListRow[], told: ReadonlyMap<string, ToldPerson>): Problem[] {
  const managerOf = (address: string) => told.get(address)?.managerId?.slice("mailto:".length);
  const isSettled = new Set<string>();
  const remarks: Problem[] = [];
  for (const { line, address, manager } of rows) {
    if (manager && !told.has(manager))
      remarks.push({ line, message: `nothing is known about ${manager}, the manager of ${address}` });
    const chain = new Set<string>();
    let at: string | undefined = address;
    for (; at !== undefined && !isSettled.has(at) && !chain.has(at); at = managerOf(at)) chain.add(at);
    if (at !== undefined && chain.has(at)) {
      const all = [...chain];
      const circle = [...all.slice(all.indexOf(at)), at];
      remarks.push({ line, message: `managers go round in a circle: ${circle.join(" → ")}` });
    }
    for (const one of chain) isSettled.add(one);
  }
  return remarks;
}
