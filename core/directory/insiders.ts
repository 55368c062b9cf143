import type { Estate } from "../estate/estate";
import { PERSON_STATES } from "../estate/records";
import type { Person } from "../estate/principals";
import { safeCell } from "../register/cells";
import { csvLines } from "../text/csv";
import { byText, fold } from "../text/text";
import { rfc3339, type Seconds } from "../time/instant";

/** Somebody who works here, or used to. */
export interface Insider {
  address: string;
  name: string;
  status: Person["status"];
  department: string | null;
  /** Their manager's name, or address where the name isn't known. */
  manager: string | null;
  /** Their last moment here, past or to come. */
  lastDay: Seconds | null;
  /** The sources that know them; none where only their address is known. */
  sources: string[];
}

/** What the list of insiders can be sorted by. */
export const INSIDER_COLUMNS = ["name", "address", "status", "department", "manager", "lastDay", "sources"] as const;
export type InsiderColumn = (typeof INSIDER_COLUMNS)[number];

/** The order in which insiders are wanted. */
export interface InsiderOrder {
  by: InsiderColumn;
  reversed: boolean;
}

/** Every insider, by name. */
export function insidersOf(estate: Estate): Insider[] {
  const { people, principals } = estate;
  return estate.everybody
    .filter(({ insider }) => insider)
    .map(({ index, address, name, status, department, managerId }) => ({
      ...{ address, name, status, department, lastDay: estate.lastDayOf(index) },
      manager: people[estate.managerOf(index)]?.name ?? managerId?.replace(/^mailto:/, "") ?? null,
      sources: principals.sourcesOf(index),
    }))
    .sort((a, b) => byText(a.name, b.name) || byText(a.address, b.address));
}

const VALUES: Record<InsiderColumn, (one: Insider) => string | number | null> = {
  name: ({ name }) => fold(name),
  address: ({ address }) => address,
  status: ({ status }) => PERSON_STATES.indexOf(status),
  department: ({ department }) => department && fold(department),
  manager: ({ manager }) => manager && fold(manager),
  lastDay: ({ lastDay }) => lastDay,
  sources: ({ sources }) => sources.join() || null,
};

/** All in an order; unknown values come last. @param all by name; equal ones stay in that order */
export function sortedInsiders(all: readonly Insider[], { by, reversed }: InsiderOrder): Insider[] {
  const value = VALUES[by];
  return all
    .map((one) => ({ one, value: value(one) }))
    .sort((a, b) => {
      if (a.value === b.value) return 0;
      if (a.value === null || b.value === null) return a.value === null ? 1 : -1;
      return a.value < b.value === reversed ? 1 : -1;
    })
    .map(({ one }) => one);
}

const HEADS = ["name", "address", "status", "department", "manager", "last day", "source"];

/** Insiders as CSV, a line for each; instants by RFC 3339. A mark at the beginning says that it is UTF-8. */
export function insidersCsv(insiders: readonly Insider[]): string {
  const lines = insiders.map(({ name, address, status, department, manager, lastDay, sources }) =>
    [
      name,
      address,
      status,
      department ?? "",
      manager ?? "",
      lastDay === null ? "" : rfc3339(lastDay),
      sources.join("; "),
    ].map(safeCell),
  );
  return "\ufeff" + csvLines([HEADS, ...lines]);
}
