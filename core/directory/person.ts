import { believed, byBelief, SETTINGS, type Sourced, TOLD, type Told } from "../estate/believed";
import type { Estate } from "../estate/estate";
import type { GroupRecord, PersonRecord } from "../estate/records";
import type { Person } from "../estate/principals";
import { seconds, type Seconds } from "../time/instant";

/** What one source says about a person: one entry for each of its records of them. */
export interface Said {
  source: string;
  name: string;
  status: Person["status"] | null;
  department: string | null;
  manager: string | null;
  lastDay: Seconds | null;
  suspendedAt: Seconds | null;
  /** Which parts of it are believed. */
  believed: Told[];
}

/** Somebody, with everything that is said about them and by whom. */
export interface PersonTold {
  address: string;
  name: string;
  insider: boolean;
  organisation: string;
  status: Person["status"];
  department: string | null;
  manager: { name: string; address: string } | null;
  lastDay: Seconds | null;
  /** In the order in which sources are believed. */
  said: Said[];
  /** Groups that they are direct members of, each with the store that keeps it, if any. */
  groups: { name: string; store: string | null }[];
  /** Whose manager they are. */
  manages: { name: string; address: string }[];
}

/** @param person index of somebody known, even if only by their address */
export function personTold(estate: Estate, person: number): PersonTold {
  const { people, principals } = estate;
  const { address, name, insider, organisation, status, department } = people[person];
  return {
    ...{ address, name, insider, organisation, status, department },
    manager: named(people[estate.managerOf(person)]),
    lastDay: estate.lastDayOf(person),
    said: saidOf(estate, person),
    groups: principals.directGroupsOf(person).map((group) => groupTold(estate, principals.groups[group])),
    manages: people.filter(({ index }) => estate.managerOf(index) === person).map((one) => named(one)!),
  };
}

function groupTold({ stores }: Estate, { name, storeId }: GroupRecord) {
  return { name, store: (storeId && stores.get(storeId)?.name) || null };
}

function named(person: Person | undefined) {
  return person ? { name: person.name, address: person.address } : null;
}

function saidOf(estate: Estate, person: number): Said[] {
  const { principals } = estate;
  const records = principals.recordsOf(person);
  const setHere = estate.lastDaySetHere(person);
  const from = records.length === 0 ? {} : believed(records, principals.belief).from;
  const said = [...records].sort(byBelief(principals.belief)).map((record) => saidBy(estate, record, from, setHere));
  if (setHere === null) return said;
  const nothing = { name: "", status: null, department: null, manager: null, suspendedAt: null };
  return [{ source: SETTINGS, ...nothing, lastDay: setHere, believed: ["leftAt"] }, ...said];
}

function saidBy(
  estate: Estate,
  record: Sourced<PersonRecord>,
  from: Partial<Record<Told, Sourced<PersonRecord>>>,
  setHere: Seconds | null,
): Said {
  const { source = "", name, status, department, managerId, leftAt, suspendedAt } = record;
  const manager = managerId == null ? undefined : estate.principals.findPerson(managerId);
  return {
    ...{ source, name, status, department: department ?? null },
    manager: manager === undefined ? (managerId?.replace(/^mailto:/, "") ?? null) : estate.people[manager].address,
    lastDay: leftAt == null ? null : seconds(leftAt),
    suspendedAt: suspendedAt == null ? null : seconds(suspendedAt),
    believed: TOLD.filter((told) => from[told] === record && !(told === "leftAt" && setHere !== null)),
  };
}
