import { parseQuery } from "@/core/query/parse";
import { asksForRevoked } from "@/core/query/revoked";
import type { RegisterRow } from "@/core/register/columns";
import { endersOf } from "../dockets/endedShare";
import type { Db } from "../platform/db/open";
import { revokersOf } from "../records/events/events";

/** Rows with who revoked the share: whoever applied the docket, or else whom the trail names. */
export async function withEnders(db: Db, rows: readonly RegisterRow[]): Promise<RegisterRow[]> {
  const revoked = rows.filter(({ state }) => state === "revoked").map(({ id }) => id);
  if (revoked.length === 0) return [...rows];
  const byDocket = await endersOf(db, revoked);
  const byTrail = await revokersOf(
    db,
    revoked.filter((id) => !byDocket.has(id)),
  );
  return rows.map((row) => ({ ...row, endedBy: byDocket.get(row.id) ?? byTrail.get(row.id) ?? null }));
}

/** Whether a query finds revoked shares, which are shown with who ended them. */
export function findsRevoked(query: string): boolean {
  return asksForRevoked(parseQuery(query).terms);
}
