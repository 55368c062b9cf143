import { shownName } from "../text/shown";

/** What others chose freely: a name, and where somebody works. */
const CHOSEN = ["name", "department"] as const;

/** A record with its names as they are shown; the record itself where they hide nothing. */
export function shownRecord<R extends object>(record: R): R {
  let shown = record;
  for (const field of CHOSEN) {
    const text = (record as Record<string, unknown>)[field];
    if (typeof text !== "string") continue;
    const seen = shownName(text);
    if (seen !== text) shown = { ...shown, [field]: seen };
  }
  return shown;
}
