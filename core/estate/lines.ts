const NEWLINE = 0x0a;
const BYTE_ORDER_MARK = "\ufeff";

/** A line of a file, or what is wrong with its bytes. */
export type Line = string | { problem: string };

/**
 * The lines of a file in UTF-8, without their ends. A byte-order mark at its beginning is read over; a line that isn't
 * UTF-8 is told as such, since what stood there can't be known.
 */
export function* linesOf(bytes: Uint8Array): Generator<Line> {
  const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });
  for (let from = 0, isFirst = true; from <= bytes.length; isFirst = false) {
    const next = bytes.indexOf(NEWLINE, from);
    const to = next < 0 ? bytes.length : next;
    const line = decoded(decoder, bytes.subarray(from, to));
    yield isFirst && typeof line === "string" && line.startsWith(BYTE_ORDER_MARK) ? line.slice(1) : line;
    from = to + 1;
  }
}

function decoded(decoder: TextDecoder, bytes: Uint8Array): Line {
  try {
    return decoder.decode(bytes);
  } catch {
    // It throws for nothing but bytes that are no UTF-8.
    return { problem: "not UTF-8; save the file in that encoding" };
  }
}
