import { safeCell } from "../register/cells";
import { csvLines } from "../text/csv";
import { rfc3339 } from "../time/instant";
import type { EngagementLine } from "./asking";

const HEADS = ["project", "organisations", "starts", "ends", "responsible", "items", "shares now", "ever used"];

/** Engagements as CSV, a line for each; instants by RFC 3339. A mark at the beginning says that it is UTF-8. */
export function engagementsCsv(lines: readonly EngagementLine[]): string {
  const cells = lines.map(({ name, organisations, starts, ends, responsible, items, shares, used }) => [
    safeCell(name),
    safeCell(organisations.join("; ")),
    ...[starts, ends].map(rfc3339),
    safeCell(responsible ?? ""),
    ...[items, shares, used].map(String),
  ]);
  return "\ufeff" + csvLines([HEADS, ...cells]);
}
