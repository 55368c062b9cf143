import type { EstateRecord, PersonRecord } from "../core/estate/records";
import { csvLines } from "../core/text/csv";
import { Calendar } from "./calendar";
import { DEPARTMENTS, HOME } from "./organisation";

/** The lists of the house's directory: one of some weeks ago, and the one of today. */
export interface PeopleLists {
  before: string;
  now: string;
}

/** By name: who has joined since, and where. */
const HIRES: Record<string, string> = {
  "Bram Ilverton": "Touring",
  "Cleo Tarnbrook": "Finance",
  "Yorick Abendroot": "Learning",
};
/** By address: to which department somebody has moved. */
const MOVES: Record<string, string> = { "hedda.pellworth": "Learning", "quirin.lorringer": "Press" };
/** Who isn't in the list any more; of each something is left. */
const LEFT = new Set(["odile.ostrander", "ada.carrowmede"]);
/** Whose last day is tomorrow. */
const LEAVING = "odile.ilverton";

const HEADS = ["address", "name", "status", "department", "manager", "last_day"];

/** @param records the people whom the stores know; whoever has left has left the directory long ago */
export function peopleLists(records: readonly EstateRecord[], now: Date): PeopleLists {
  const tomorrow = new Calendar(now).inDays(1).slice(0, 10);
  const people = records.filter(
    (one): one is PersonRecord => one.type === "person" && one.email.endsWith(`@${HOME}`) && one.status !== "left",
  );
  const heads = new Map(
    DEPARTMENTS.map((department) => [department as string, people.find((one) => one.department === department)!.email]),
  );
  const line = (email: string, name: string, status: string, department: string, lastDay = "") => {
    const head = heads.get(department)!;
    return [email, name, status, department, head === email ? "" : head, lastDay];
  };
  const of = ({ email, name, status, department }: PersonRecord, lastDay?: string) =>
    line(email, name, status, department!, lastDay);
  const own = ({ email }: PersonRecord) => email.slice(0, email.indexOf("@"));
  const stayed = people
    .filter((one) => !LEFT.has(own(one)))
    .map((one) => of({ ...one, department: MOVES[own(one)] ?? one.department }, own(one) === LEAVING ? tomorrow : ""));
  const joined = Object.entries(HIRES).map(([name, department]) =>
    line(`${name.toLowerCase().replace(" ", ".")}@${HOME}`, name, "active", department),
  );
  return {
    before: csvLines([HEADS, ...people.map((one) => of(one))]),
    now: csvLines([HEADS, ...stayed, ...joined]),
  };
}
