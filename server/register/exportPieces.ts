import type { Order } from "@/core/query/order";
import type { RegisterRow } from "@/core/register/columns";
import type { Seconds } from "@/core/time/instant";
import { csvLineOf } from "@/core/register/cells";
import { findsRevoked, withEnders } from "./endings";
import type { Asking, AskingEstate } from "../engine/client";
import { readAhead } from "../platform/readAhead";

const PIECE = 2_000;

/** The rows that a query finds, piece by piece, so that however many there are, few are in memory. */
export function rowPieces(
  app: AskingEstate,
  query: string,
  order: Order,
  past: Seconds | undefined,
): AsyncGenerator<RegisterRow[]> {
  return readAhead(piecesOfRows(app, query, order, past));
}

async function* piecesOfRows(
  app: AskingEstate,
  query: string,
  order: Order,
  past: Seconds | undefined,
): AsyncGenerator<RegisterRow[]> {
  // Each piece continues after the last share, so that changes meanwhile neither skip nor repeat anything.
  for (let behind: string | undefined; ;) {
    const rows = await app.engine.ask("some", { query, order, behind, count: PIECE }, past);
    if (rows.length > 0) yield withEnders(app.db, rows);
    if (rows.length < PIECE) return;
    behind = rows[PIECE - 1].id;
  }
}

/** The same as lines of CSV, which the engine's thread writes: that is cheaper than handing rows over. */
export async function* csvPieces(
  app: Asking,
  query: string,
  order: Order,
  past: Seconds | undefined,
): AsyncGenerator<string> {
  // Who ended a share the engine doesn't know.
  if (findsRevoked(query)) {
    for await (const rows of rowPieces(app, query, order, past)) yield rows.map(csvLineOf).join("");
    return;
  }
  for (let behind: string | undefined; ;) {
    const { lines, last } = await app.engine.ask("csv", { query, order, behind, count: PIECE }, past);
    if (lines !== "") yield lines;
    if (last === undefined) return;
    behind = last;
  }
}
