import Papa from "papaparse";

export const ENCODINGS = ["utf-8", "utf-16le", "utf-16be", "windows-1252"] as const;
export type Encoding = (typeof ENCODINGS)[number];

export const SEPARATORS = [",", ";", "\t"] as const;
export type Separator = (typeof SEPARATORS)[number];

/** Rows of a report, some at a time. */
export type Rows = string[][];

/** Why a report can't be read. */
export class Unreadable extends Error {}

/**
 * The encoding that the beginning of a file suggests: its byte-order mark, else zeros in every other byte, else UTF-8
 * where it is well-formed, else Windows-1252, which any bytes are. WHATWG Encoding, section 4.2, names them so.
 * @param isWhole whether that is the whole file: otherwise its last character may be cut
 */
export function guessEncoding(start: Uint8Array, isWhole: boolean): Encoding {
  const [a, b, c] = start;
  if (a === 0xef && b === 0xbb && c === 0xbf) return "utf-8";
  if (a === 0xff && b === 0xfe) return "utf-16le";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  const zeros = [0, 0];
  for (let i = 0; i < start.length; i++) if (start[i] === 0) zeros[i % 2]++;
  if (zeros[1] > start.length / 8) return "utf-16le";
  if (zeros[0] > start.length / 8) return "utf-16be";
  return isUtf8(start, isWhole) ? "utf-8" : "windows-1252";
}

function isUtf8(bytes: Uint8Array, isWhole: boolean): boolean {
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes, { stream: !isWhole });
    return true;
  } catch {
    // It throws only for bytes that aren't UTF-8.
    return false;
  }
}

/** How many lines are looked at to find the separator. */
const LINES_LOOKED_AT = 50;

/** The separator that gives the most lines the same number of cells, and the most cells. */
export function guessSeparator(text: string): Separator {
  const score = (separator: Separator) => {
    const rows = Papa.parse<string[]>(text, { delimiter: separator, preview: LINES_LOOKED_AT }).data;
    const counts = new Map<number, number>();
    for (const { length } of rows) counts.set(length, (counts.get(length) ?? 0) + 1);
    const [width, often] = [...counts].filter(([cells]) => cells > 1).sort((x, y) => y[1] - x[1] || y[0] - x[0])[0] ?? [
      0, 0,
    ];
    return (often / rows.length) * 100 + Math.min(width, 50) / 100;
  };
  return [...SEPARATORS].sort((a, b) => score(b) - score(a))[0];
}

/** No cell of a spreadsheet is longer than this; a quote that is never closed is found by it. */
const LONGEST_CELL = 1_000_000;

/** How a file of separated values is written. */
interface Written {
  encoding: Encoding;
  separator: Separator;
}

/**
 * The rows of a file of separated values (RFC 4180), some at a time. Nothing of the file is held but what is being read.
 * @throws {Unreadable} where bytes are none of the encoding's, or a quote isn't closed
 */
export function* rowsOf(pieces: Iterable<Uint8Array>, written: Written): Generator<Rows> {
  const reader = new RowReader(written.separator);
  for (const text of textOf(pieces, written.encoding, reader)) {
    const rows = reader.read(text);
    if (rows.length > 0) yield rows;
  }
  if (reader.isWithin) yield reader.last();
}

/**
 * The first rows of a file, at most so many, and how many it has. Rows that are only counted take half as long.
 * @throws {Unreadable} as `rowsOf` does
 */
export function firstRowsOf(
  pieces: Iterable<Uint8Array>,
  written: Written,
  most: number,
): { rows: Rows; count: number } {
  const reader = new RowReader(written.separator);
  const rows: Rows = [];
  const keep = (some: Rows) => rows.push(...some.slice(0, most - rows.length));
  for (const text of textOf(pieces, written.encoding, reader))
    if (rows.length < most) keep(reader.read(text));
    else reader.count(text);
  if (reader.isWithin) keep(reader.last());
  return { rows, count: reader.row };
}

/** So many rows are parsed at once where one of them is quoted and they are only counted. */
const QUOTED_AT_ONCE = 64;

/** Takes a file's text piece by piece. */
class RowReader {
  /** How many rows have ended. */
  row = 0;
  private rest = "";
  private newline: string | undefined;

  constructor(private readonly delimiter: Separator) {}

  /** Whether a row has begun that hasn't ended. A line's end at the end of a file doesn't begin another, empty row. */
  get isWithin(): boolean {
    return this.rest !== "";
  }

  /** The rows that end in a piece. @throws {Unreadable} */
  read(piece: string): Rows {
    const text = this.joined(piece);
    if (!this.canBegin(text)) return [];
    const { rows, end } = this.parse(text, {});
    this.hold(text, end);
    return rows;
  }

  /** Takes a piece as `read` does, and counts its rows only: outside quotes each line's end is a row's. @throws {Unreadable} */
  count(piece: string): void {
    const text = this.joined(piece);
    if (!this.canBegin(text)) return;
    let at = 0;
    for (let ended = Infinity; ended > 0;) {
      const quote = text.indexOf('"', at);
      at = this.skip(text, at, quote < 0 ? text.length : quote);
      if (quote < 0) break;
      const { rows, end } = this.parse(text.slice(at), { preview: QUOTED_AT_ONCE });
      ended = rows.length;
      at += end;
    }
    this.hold(text, at);
  }

  /** The row that the end of the file ends. @throws {Unreadable} */
  last(): Rows {
    const text = this.joined("");
    this.newline ??= newlineOf(text);
    return this.parse(text, {}, true).rows;
  }

  private joined(piece: string): string {
    return (this.rest += piece);
  }

  /** A line's end may be cut in two. */
  private canBegin(text: string): boolean {
    this.newline ??= newlineOf(text);
    return this.newline !== undefined && !text.endsWith("\r");
  }

  /** Goes past the lines that end before a place. @returns where the next begins */
  private skip(text: string, from: number, before: number): number {
    let at = from;
    for (let end = text.indexOf(this.newline!, at); end >= 0 && end < before; end = text.indexOf(this.newline!, at)) {
      at = end + this.newline!.length;
      this.row++;
    }
    return at;
  }

  private parse(text: string, more: { preview?: number }, isLast = false): { rows: Rows; end: number } {
    const config = { delimiter: this.delimiter, newline: this.newline ?? "\n", ...more };
    const parser = new Papa.Parser(config as Papa.ParseConfig);
    const { data, errors, meta } = parser.parse(text, 0, !isLast) as Papa.ParseResult<string[]>;
    const problem = errors.find(({ type }) => type === "Quotes") as (Papa.ParseError & { row: number }) | undefined;
    if (problem && (isLast || problem.row < data.length)) throw this.badQuote(problem.row);
    this.row += data.length;
    return { rows: data, end: meta.cursor };
  }

  private hold(text: string, from: number) {
    this.rest = text.slice(from);
    if (this.rest.length > LONGEST_CELL) throw this.badQuote(0);
  }

  private badQuote(after: number): Unreadable {
    return new Unreadable(
      `Row ${this.row + after + 1} has a quotation mark that isn’t closed or isn’t doubled. ` +
        "Correct it, or export the report again.",
    );
  }
}

function* textOf(pieces: Iterable<Uint8Array>, encoding: Encoding, reader: RowReader): Generator<string> {
  const decoder = new TextDecoder(encoding, { fatal: true });
  const decoded = (piece?: Uint8Array) => {
    try {
      return piece ? decoder.decode(piece, { stream: true }) : decoder.decode();
    } catch {
      // It throws only for bytes that the encoding doesn't allow.
      throw new Unreadable(`From about row ${reader.row + 1} on the file isn’t ${encoding}. Choose another encoding.`);
    }
  };
  for (const piece of pieces) yield decoded(piece);
  yield decoded();
}

/** The line ending of a file; undefined while no line has ended. */
function newlineOf(text: string): string | undefined {
  // A quote that opens no cell would hide all line ends behind it.
  const plain = text.length > LONGEST_CELL ? text : text.replace(/"[^"]*(?:"|$)/g, "");
  if (text.endsWith("\r")) return undefined;
  if (plain.includes("\r\n")) return "\r\n";
  if (plain.includes("\n")) return "\n";
  return plain.includes("\r") ? "\r" : undefined;
}
