import { Readable } from "node:stream";
import type { TRAIL_FORMATS } from "@/contract/trail";
import { rfc3339 } from "@/core/time/instant";
import type { TrailEvent } from "@/core/trail/event";
import type { EventPlace } from "@/core/trail/page";
import { printSearch, type TrailSearch } from "@/core/trail/search";
import { cautions } from "@/core/trail/sentence";
import { type RecordOf, recordSchemas } from "@/core/estate/records";
import type { FileAnswer } from "../platform/serving";
import { Problem } from "../platform/problem";
import { readAhead } from "../platform/readAhead";
import { append } from "../records/ledger/ledger";
import { safeCell } from "@/core/register/cells";
import { csvLines } from "@/core/text/csv";
import { OutgoingEvents } from "../records/exportEstate";
import { factNow } from "../records/facts";
import { bodiesOf } from "../records/events/events";
import type { Asking } from "../engine/client";

type TrailFormat = (typeof TRAIL_FORMATS)[number];

const TYPES: Record<TrailFormat, string> = {
  csv: "text/csv; charset=utf-8",
  jsonl: "application/jsonl; charset=utf-8",
};
const PIECE = 500;

const COLUMNS: [head: string, cell: (event: TrailEvent) => string][] = [
  ["At", ({ at }) => rfc3339(at)],
  ["Verb", ({ verb }) => verb],
  ["Store", ({ source }) => source],
  ["Who", ({ who }) => who?.name ?? ""],
  ["Address", ({ who }) => who?.people?.[0] ?? ""],
  ["Item", ({ item }) => item?.name ?? ""],
  ["Place", ({ item }) => item?.detail ?? ""],
  ["Label", ({ item }) => item?.label ?? ""],
  ["Share", ({ share }) => share?.key ?? ""],
  ["Way", ({ share }) => share?.name ?? ""],
  ["Recipients", ({ share }) => share?.people?.join(", ") ?? ""],
  ["With", ({ whom }) => whom?.name ?? ""],
  ["Remarks", (event) => cautions(event).join(" ")],
];

export const EVENT_HEADS = COLUMNS.map(([head]) => head);

/**
 * What a search finds as a file, the newest first: as a table, or as an estate file of events. That it went out stands
 * in the ledger before its first byte.
 * @throws {Problem} where there is no head for an estate file
 */
export async function trailExport(
  app: Asking,
  actor: string,
  search: TrailSearch,
  format: TrailFormat,
): Promise<FileAnswer> {
  const head = await factNow<RecordOf<"estate">>(app.db, "estate", "estate");
  if (format === "jsonl" && !head)
    throw new Problem("conflict", "Nothing was exported: no home domains are set. Set them under Estate.");
  const { found } = await app.engine.ask("eventCounts", { search, zone: "UTC" });
  await append(app.db, actor, "trail-exported", { search: printSearch(search).toString(), format, events: found });
  const bytes = Readable.from(format === "csv" ? csv(app, search) : jsonLines(app, head!, search));
  return { type: TYPES[format], name: `events.${format}`, body: Readable.toWeb(bytes) as ReadableStream };
}

async function* csv(app: Asking, search: TrailSearch): AsyncGenerator<string> {
  yield "\ufeff" + csvLines([EVENT_HEADS]);
  for await (const events of eventPieces(app, search)) yield eventLines(events);
}

/** Events as lines of CSV, safe to open in a spreadsheet. */
export function eventLines(events: readonly TrailEvent[]): string {
  return csvLines(events.map((event) => eventCells(event).map(safeCell)));
}

/** An event's cell under each heading. */
export function eventCells(event: TrailEvent): string[] {
  return COLUMNS.map(([, cell]) => cell(event));
}

async function* jsonLines(app: Asking, head: RecordOf<"estate">, search: TrailSearch): AsyncGenerator<string> {
  yield `${JSON.stringify({ ...head, asOf: app.clock.text() })}\n`;
  const outgoing = await OutgoingEvents.of(app.db);
  for await (const events of eventPieces(app, search)) {
    const readable = events.filter(({ verb }) => verb !== "unreadable");
    const bodies = await bodiesOf(
      app.db,
      readable.map(({ seq }) => seq),
    );
    const told = readable.map(({ seq, source }) => ({
      source,
      event: recordSchemas.event.parse(JSON.parse(bodies.get(seq)!)),
    }));
    yield (await outgoing.named(told)).map((event) => `${JSON.stringify(event)}\n`).join("");
  }
}

/** What a search finds, piece by piece, the newest first. */
export function eventPieces(app: Asking, search: TrailSearch): AsyncGenerator<TrailEvent[]> {
  return readAhead(piecesFound(app, search));
}

async function* piecesFound(app: Asking, search: TrailSearch): AsyncGenerator<TrailEvent[]> {
  for (let before: EventPlace | undefined; ;) {
    const { events, next } = await app.engine.ask("events", { search, before, count: PIECE });
    yield events;
    if (next === null) return;
    before = next;
  }
}
