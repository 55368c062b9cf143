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

/**
 * The rows of a file of separated values (RFC 4180), some at a time. Nothing of the file is held but what is being read.
 * @throws {Unreadable} where bytes are none of the encoding's, or a quote isn't closed
 */
export function* rowsOf(
  pieces: Iterable<Uint8Array>,
  { encoding, separator }: { encoding: Encoding; separator: Separator },
): Generator<Rows> {
  let rest = "";
  let row = 0;
  let newline: string | undefined;
  const held = (text: string): Rows => {
    rest = text;
    return [];
  };
  const parse = (text: string, isLast: boolean): Rows => {
    newline ??= newlineOf(text);
    // A line's end may be cut in two.
    if (!isLast && (newline === undefined || text.endsWith("\r"))) return held(text);
    const parser = new Papa.Parser({ delimiter: separator, newline: newline ?? "\n" } as Papa.ParseConfig);
    const { data, errors, meta } = parser.parse(text, 0, !isLast) as Papa.ParseResult<string[]>;
    rest = isLast ? "" : text.slice(meta.cursor);
    const problem = errors.find(({ type }) => type === "Quotes") as (Papa.ParseError & { row: number }) | undefined;
    if ((problem && (isLast || problem.row < data.length)) || rest.length > LONGEST_CELL)
      throw new Unreadable(
        `Row ${row + (problem?.row ?? data.length) + 1} has a quotation mark that isn’t closed or isn’t doubled. ` +
          "Correct it, or export the report again.",
      );
    row += data.length;
    return data;
  };
  for (const text of textOf(pieces, encoding, () => row + 1)) {
    const rows = parse(rest + text, false);
    if (rows.length > 0) yield rows;
  }
  // A line ending at the end of a file doesn't begin another, empty line.
  if (rest !== "") yield parse(rest, true);
}

function* textOf(pieces: Iterable<Uint8Array>, encoding: Encoding, row: () => number): Generator<string> {
  const decoder = new TextDecoder(encoding, { fatal: true });
  const decoded = (piece?: Uint8Array) => {
    try {
      return piece ? decoder.decode(piece, { stream: true }) : decoder.decode();
    } catch {
      // It throws only for bytes that the encoding doesn't allow.
      throw new Unreadable(`From about row ${row()} on the file isn’t ${encoding}. Choose another encoding.`);
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
