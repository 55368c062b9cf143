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
