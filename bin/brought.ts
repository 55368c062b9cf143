import { NoNote, readKeyLine } from "../core/ledger/checkpoint";
import { readBytes } from "./files";
import { Refusal } from "./refusal";

/**
 * A signed checkpoint that somebody has kept in a file and brings to compare with.
 * @throws {Refusal} where the file holds none
 */
export function broughtNote<T>(path: string, read: (text: string) => T): T {
  return orRefused(() => read(new TextDecoder().decode(readBytes(path))));
}

/** A key that somebody holds. @throws {Refusal} where it isn't written as one */
export function broughtKey(line: string) {
  return orRefused(() => readKeyLine(line));
}

function orRefused<T>(read: () => T): T {
  try {
    return read();
  } catch (error) {
    throw error instanceof NoNote ? new Refusal(2, error.message) : error;
  }
}
