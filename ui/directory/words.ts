import type { SourceTold } from "@/contract/directory";
import type { Outcome } from "@/core/directory/reading";
import { SETTINGS } from "@/core/estate/believed";

/** What kind of source something is. */
export const SOURCE_WORDS: Record<SourceTold["kind"], string> = {
  directory: "a directory",
  store: "a store",
  import: "an imported file",
};

/** What a source is called: a store by the name that people use. */
export function sourceTitle(name: string, sources: readonly SourceTold[] | undefined): string {
  if (name === SETTINGS) return "set here";
  return sources?.find((one) => one.name === name)?.title ?? name;
}

/** What a reading does to people, as a heading. */
export const OUTCOME_WORDS: Record<Outcome, [one: string, many: string]> = {
  joins: ["person joins", "people join"],
  returns: ["person is active again", "people are active again"],
  leaves: ["person has left", "people have left"],
  suspended: ["person is suspended", "people are suspended"],
  "last-day": ["person has a last day", "people have a last day"],
  changes: ["person changes", "people change"],
  same: ["person stays as told", "people stay as told"],
};
