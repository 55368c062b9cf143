import { closeSync, openSync, readFileSync, readSync } from "node:fs";
import type { EstateFile } from "../core/estate/estateFile";
import { Refusal } from "./refusal";

export function readBytes(path: string): Uint8Array {
  try {
    return readFileSync(path);
  } catch (error) {
    throw new Refusal(1, `${path}: can't be read: ${(error as Error).message}`);
  }
}

/** @throws {Refusal} where a file isn't there or can't be read */
export function readStart(path: string): void {
  for (const _ of piecesOf(path)) return;
}

const PIECE = 1 << 20;

/** A file in pieces, so that none has to be held whole. Each is good until the next one is asked for. */
export function piecesOf(path: string): Iterable<Uint8Array> {
  const can = <Done>(what: () => Done): Done => {
    try {
      return what();
    } catch (error) {
      throw new Refusal(1, `${path}: can't be read: ${(error as Error).message}`);
    }
  };
  const file = can(() => openSync(path, "r"));
  // So a folder is refused before anything else is begun.
  can(() => readSync(file, new Uint8Array(1), 0, 1, 0));
  return (function* () {
    const piece = new Uint8Array(PIECE);
    try {
      for (;;) {
        const length = can(() => readSync(file, piece, 0, PIECE, null));
        if (length === 0) return;
        yield piece.subarray(0, length);
      }
    } finally {
      closeSync(file);
    }
  })();
}

/**
 * Says what is wrong with an estate file, line by line.
 * @param done what was done with nothing of it, where it can't be read leniently either
 */
export function tellProblems(
  path: string,
  { problems, unknownFields, isHeadless }: Pick<EstateFile, "problems" | "unknownFields" | "isHeadless">,
  lenient: boolean,
  done: "used" | "imported",
) {
  for (const [field, count] of unknownFields) console.error(`${path}: warning: unknown field ${field}, ${count} times`);
  const isSkipped = lenient && !isHeadless;
  for (const { line, message } of problems) console.error(`${path}:${line}: ${isSkipped ? "skipped: " : ""}${message}`);
  if (problems.length === 0 || isSkipped) return;
  const errors = problems.length === 1 ? "1 error" : `${problems.length} errors`;
  throw new Refusal(1, `${path}: ${errors}; nothing was ${done}`);
}
