import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import { byText } from "../text/text";

/**
 * Draws a sample that anyone can reproduce: shares in the order of the SHA-256 of the seed, a line end and their id, in
 * hex; the first ones, as many as wanted.
 */
export function drawn(seed: string, shareIds: readonly string[], size: number): string[] {
  const marked = shareIds.map((id) => ({ id, mark: hashOf(`${seed}\n${id}`) }));
  return marked
    .sort((a, b) => byText(a.mark, b.mark))
    .slice(0, size)
    .map(({ id }) => id);
}

/** Of texts that are sorted, each followed by a line end. @returns SHA-256 in hex */
export function hashOfLines(lines: readonly string[]): string {
  return hashOf(
    [...lines]
      .sort(byText)
      .map((line) => `${line}\n`)
      .join(""),
  );
}

const hashOf = (text: string) => bytesToHex(sha256(utf8ToBytes(text)));
