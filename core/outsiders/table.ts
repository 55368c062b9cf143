import { LABELS } from "../estate/records";
import { safeCell } from "../register/cells";
import { csvLines } from "../text/csv";
import { rfc3339, type Seconds } from "../time/instant";
import { type Organisation, PRIVATE_MAILBOXES } from "./organisations";

const HEADS = [
  ...["organisation", "stance", "people", "shares", "files", "folders", ...LABELS],
  ...["since", "last used", "given access by", "projects", "findings", "highest risk"],
];

/** Organisations as CSV, a line for each; instants by RFC 3339. A mark at the beginning says that it is UTF-8. */
export function organisationsCsv(organisations: readonly Organisation[]): string {
  return "\ufeff" + csvLines([HEADS, ...organisations.map(cellsOf)]);
}

function cellsOf({ domain, stance, people, shares, files, folders, labels, ...rest }: Organisation): string[] {
  const { since, lastUsed, makers, engagements, findings, risk } = rest;
  return [
    domain === PRIVATE_MAILBOXES ? "private mailboxes" : safeCell(domain),
    stance ?? "",
    ...[people, shares, files, folders, ...labels].map(String),
    instant(since),
    instant(lastUsed),
    ...[makers, engagements, findings].map(String),
    risk ?? "",
  ];
}

const instant = (at: Seconds | null) => (at === null ? "" : rfc3339(at));
