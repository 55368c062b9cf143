/** A kind of entry as it is spelled today. Older entries have a dot where a hyphen is now, and are never rewritten. */
export function spelledToday(kind: string): string {
  return kind.replace(".", "-");
}
