import { Readable, Transform } from "node:stream";
import type { EXPORT_FORMATS } from "@/contract/register";
import type { Order } from "@/core/query/order";
import { recordLine } from "@/core/estate/estateFile";
import type { EstateRecord } from "@/core/estate/records";
import { misunderstoodIn } from "@/core/query/parse";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { FileAnswer } from "../platform/serving";
import { Problem } from "../platform/problem";
import { append } from "../records/ledger/ledger";
import { exportEstate } from "../records/exportEstate";
import { homeDomains } from "../records/homeDomains";
import { csvPieces, rowPieces } from "./exportPieces";
import { csvOf, MOST_SHEET_ROWS, xlsxOf } from "./tables";
import type { Asking } from "../engine/client";

type Format = (typeof EXPORT_FORMATS)[number];

const TYPES: Record<Format, string> = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  jsonl: "application/jsonl; charset=utf-8",
};

export interface ExportAsked {
  query: string;
  order: Order;
  format: Format;
  past?: Seconds;
}

/**
 * What a query finds as a file, written while it is read; the export stands in the ledger before its first byte goes out.
 * @throws {Problem} where a part of the query isn't understood: the file would hold something else than was asked for
 */
export async function exportOf(
  app: Asking,
  actor: string,
  { query, order, format, past }: ExportAsked,
): Promise<FileAnswer> {
  const why = misunderstoodIn(query);
  if (why) throw new Problem("bad", `Nothing was exported: ${why}.`);
  const [shares] = await app.engine.ask("counts", { queries: [query] }, past);
  if (format === "xlsx" && shares >= MOST_SHEET_ROWS)
    throw new Problem("bad", `A sheet has at most ${MOST_SHEET_ROWS} rows. Narrow the query, or take CSV.`);
  if (format === "jsonl" && (await homeDomains(app.db)).length === 0)
    throw new Problem("conflict", "Nothing was exported: no home domains are set. Set them under Estate.");
  const at = past === undefined ? null : rfc3339(past);
  await append(app.db, actor, "register-exported", { query, format, shares, at });
  const bytes = {
    csv: () => csvOf(csvPieces(app, query, order, past)),
    xlsx: () => xlsxOf(rowPieces(app, query, order, past)),
    jsonl: () => estateLines(app, query, past),
  }[format]();
  return { type: TYPES[format], name: `shares.${format}`, body: Readable.toWeb(bytes) as ReadableStream };
}

/**
 * The shares as an estate file, with what they refer to: stores, people, groups, their items and all above those. It
 * can be imported again. Addresses of links are left out: whoever holds one gets in.
 */
function estateLines(app: Asking, query: string, past: Seconds | undefined): Readable {
  return Readable.from(estateRecords(app, query, past)).pipe(
    new Transform({
      objectMode: true,
      transform: (record: EstateRecord, _, done) => done(null, `${recordLine(record, { withAddresses: false })}\n`),
    }),
  );
}

async function* estateRecords(app: Asking, query: string, past: Seconds | undefined) {
  const found = await app.engine.ask("extract", { query }, past);
  const only = { items: new Set(found.items), shares: new Set(found.shares) };
  yield* exportEstate(app.db, { only, ...(past !== undefined && { at: rfc3339(past) }) });
}
