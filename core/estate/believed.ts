import { byText } from "../text/text";
import { seconds, type Seconds } from "../time/instant";
import type { EstateRecord, PersonRecord } from "./records";

/**
 * A record and whose word it is; without a source where there is but one. Of a store also whether it is read and
 * changed over its own interface, so that it has to know whom a change names.
 */
export type Sourced<R extends EstateRecord = EstateRecord> = R & { source?: string; isRead?: boolean };

/** Under this name stands what was set in the application itself. */
export const SETTINGS = "settings";

/** The order in which sources are believed: what was set here, then by name, whoever spoke first. */
export function byBelief(a: Sourced, b: Sourced): number {
  return Number(b.source === SETTINGS) - Number(a.source === SETTINGS) || byText(a.source ?? "", b.source ?? "");
}

/** What is believed of a person; `leftAt` is their last instant, where anybody tells it. */
export interface Believed {
  /** The first record, which gives the person's id. */
  first: Sourced<PersonRecord>;
  name: string;
  status: PersonRecord["status"];
  department: string | null;
  managerId: string | null;
  leftAt: Seconds | null;
}

/**
 * What is believed of one person of whom several records speak: for each thing, the first source that tells it. Within
 * a source they are active if any of its records says so.
 * @param records of one address, at least one, those of a source in the order in which they came
 */
export function believed(records: readonly Sourced<PersonRecord>[]): Believed {
  const sorted = records.length === 1 ? records : [...records].sort(byBelief);
  const [first] = sorted;
  const own = sorted.filter(({ source }) => source === first.source);
  const leftAt = sorted.find((one) => one.leftAt != null)?.leftAt;
  return {
    first,
    name: first.name,
    status: own.some(({ status }) => status === "active") ? "active" : first.status,
    department: sorted.find((one) => one.department != null)?.department ?? null,
    managerId: sorted.find((one) => one.managerId != null)?.managerId ?? null,
    leftAt: leftAt == null ? null : seconds(leftAt),
  };
}
