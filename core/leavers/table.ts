import { safeCell } from "../register/cells";
import { csvLines } from "../text/csv";
import { rfc3339, type Seconds } from "../time/instant";
import type { Leaver } from "./leavers";

const HEADS = [
  "name",
  "address",
  "status",
  "department",
  "since",
  "last day",
  "owns",
  "live links",
  "grants",
  "groups",
];

/** Leavers as CSV, a line for each; instants by RFC 3339. A mark at the beginning says that it is UTF-8. */
export function leaversCsv(leavers: readonly Leaver[]): string {
  const instant = (at: Seconds | null) => (at === null ? "" : rfc3339(at));
  const cells = leavers.map(({ name, address, status, department, since, lastDay, ...left }) => [
    ...[name, address, status, department ?? ""].map(safeCell),
    ...[since, lastDay].map(instant),
    ...[left.owned, left.links, left.grants, left.groups].map(String),
  ]);
  return "\ufeff" + csvLines([HEADS, ...cells]);
}
