const NEWLINE = 0x0a;
const BYTE_ORDER_MARK = "\ufeff";

/** A line of a file, or what is wrong with its bytes. */
export type Line = string | { problem: string };

/**
 * The lines of a file in UTF-8, without their ends. A byte-order mark at its beginning is read over; a line that isn't
 * UTF-8 is told as such, since what stood there can't be known.
 * @param pieces of the file, one after the other, cut anywhere
 */
export function* linesOf(pieces: Iterable<Uint8Array>): Generator<Line> {
  const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });
  let isFirst = true;
  for (const bytes of byteLinesOf(pieces)) {
    const line = decoded(decoder, bytes);
    yield isFirst && typeof line === "string" && line.startsWith(BYTE_ORDER_MARK) ? line.slice(1) : line;
    isFirst = false;
  }
}

function* byteLinesOf(pieces: Iterable<Uint8Array>): Generator<Uint8Array> {
  /** What of a line has come already. */
  let begun: Uint8Array[] = [];
  for (const piece of pieces) {
    let from = 0;
    for (let to = piece.indexOf(NEWLINE); to >= 0; to = piece.indexOf(NEWLINE, from)) {
      yield joined(begun, piece.subarray(from, to));
      begun = [];
      from = to + 1;
    }
    // The next piece may be read over this one.
    begun.push(piece.slice(from));
  }
  yield joined(begun);
}

function joined(begun: readonly Uint8Array[], rest: Uint8Array = new Uint8Array(0)): Uint8Array {
  if (begun.length === 0) return rest;
  const bytes = new Uint8Array([...begun, rest].reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of [...begun, rest]) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

function decoded(decoder: TextDecoder, bytes: Uint8Array): Line {
  try {
    return decoder.decode(bytes);
  } catch {
    // It throws for nothing but bytes that are no UTF-8.
    return { problem: "not UTF-8; save the file in that encoding" };
  }
}
