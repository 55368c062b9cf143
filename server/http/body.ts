import { Problem } from "../platform/problem";

/** The deepest JSON accepted: deeper than anything that an operation takes. */
const MOST_DEPTH = 32;
const [QUOTE, ESCAPE, OPEN, CLOSE, OPEN_LIST, CLOSE_LIST] = Buffer.from('"\\{}[]');

/**
 * Reads a body, and stops as soon as it is known to be too large or too deep.
 * @param isJson whether it can be too deep
 * @throws {Problem} before it has been read whole
 */
export async function boundedBody(request: Request, mostBytes: number, isJson: boolean): Promise<Buffer> {
  if (Number(request.headers.get("content-length") ?? 0) > mostBytes) throw tooLarge();
  if (!request.body) return Buffer.alloc(0);
  const pieces: Uint8Array[] = [];
  const depth = new Depth();
  let bytes = 0;
  // Leaving the loop early cancels the stream: what is still to come is not taken in.
  for await (const piece of request.body as unknown as AsyncIterable<Uint8Array>) {
    bytes += piece.byteLength;
    if (bytes > mostBytes) throw tooLarge();
    if (isJson) depth.follow(piece);
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** A file as it comes, piece by piece. @throws {Problem} where it is none; while it is read, where it is too large */
export function boundedFile(request: Request, mostBytes: number): ReadableStream<Uint8Array> {
  const type = (request.headers.get("content-type") ?? "").split(";")[0].trim().toLowerCase();
  if (type !== "application/octet-stream" || !request.body)
    throw new Problem("wrong-type", "Send a file, as application/octet-stream.");
  if (Number(request.headers.get("content-length") ?? 0) > mostBytes) throw tooLarge();
  let bytes = 0;
  const counting = new TransformStream<Uint8Array, Uint8Array>({
    transform(piece, controller) {
      bytes += piece.byteLength;
      if (bytes > mostBytes) controller.error(tooLarge());
      else controller.enqueue(piece);
    },
  });
  return request.body.pipeThrough(counting);
}

/** JSON from a body. @throws {Problem} where it is too large, too deep, no JSON, or not well-formed Unicode */
export async function jsonBody(request: Request, mostBytes: number): Promise<unknown> {
  const type = (request.headers.get("content-type") ?? "").split(";")[0].trim().toLowerCase();
  if (type !== "application/json") throw new Problem("wrong-type", "Send JSON, as application/json.");
  const body = await boundedBody(request, mostBytes, true);
  try {
    return JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(body), wellFormed);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem("bad", "The request's body is not JSON.");
  }
}

/** Half of a pair of surrogates is no character, and nothing that holds one could be sealed into the ledger. */
function wellFormed(_key: string, value: unknown): unknown {
  if (typeof value === "string" && !value.isWellFormed())
    throw new Problem("bad", "The request contains half a character: a surrogate without its other half.");
  return value;
}

/** Tracks how deep JSON goes, piece by piece: its brackets never occur within other characters of UTF-8. */
class Depth {
  private depth = 0;
  private isInText = false;
  private isEscaped = false;

  follow(piece: Uint8Array) {
    for (const byte of piece) {
      if (this.isEscaped) this.isEscaped = false;
      else if (this.isInText) {
        if (byte === ESCAPE) this.isEscaped = true;
        else if (byte === QUOTE) this.isInText = false;
      } else if (byte === QUOTE) this.isInText = true;
      else if (byte === OPEN || byte === OPEN_LIST) this.deeper();
      else if (byte === CLOSE || byte === CLOSE_LIST) this.depth--;
    }
  }

  private deeper() {
    if (++this.depth > MOST_DEPTH) throw new Problem("too-large", "The request is nested too deeply.");
  }
}

function tooLarge() {
  return new Problem("too-large", "The request is too large.");
}
