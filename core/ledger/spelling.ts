import { fold } from "../text/text";
import type { LedgerEntry } from "./chain";

/** Kinds that are called something else today. */
const RENAMED: Record<string, string> = {
  "acting-stopped": "enforcing-stopped",
  "acting-goes-on": "enforcing-goes-on",
};

/** A kind of entry as it is spelled today. Older entries have a dot where a hyphen is now, and are never rewritten. */
export function spelledToday(kind: string): string {
  const hyphenated = kind.replace(".", "-");
  return RENAMED[hyphenated] ?? hyphenated;
}

/** Whether an entry speaks of all of some words, already folded: in who did it, what they did, or what it holds. */
export function speaksOf(
  { actor, kind, body }: Pick<LedgerEntry, "actor" | "kind" | "body">,
  words: readonly string[],
) {
  const text = fold(`${actor} ${spelledToday(kind).replaceAll("-", " ")} ${JSON.stringify(body)}`);
  return words.every((word) => text.includes(word));
}
