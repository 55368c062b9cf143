import type { SomeItems, Way } from "@/core/preview/preview";
import { countWords, eitherWords, listWords } from "@/core/text/words";
import { begun } from "@/core/text/text";

export { countWords, eitherWords, listWords };

/** A level or an id of ours as words: `very-high` is `Very high`. */
export function plainWords(id: string): string {
  return begun(READ_OTHERWISE[id] ?? id.replaceAll(/[-.]/g, " "));
}

/** Ids of ours that stand for what people say otherwise. */
const READ_OTHERWISE: Record<string, string> = { "set-aside": "skipped", spent: "expired or used up" };

/** Some items: by name where it is one, else by number with the first few names. */
export function itemWords({ count, names }: SomeItems): string {
  if (count === 1) return names[0];
  const more = count - names.length;
  return `${countWords(count, "item")}: ${names.join(", ")}${more > 0 ? ` and ${more.toLocaleString("en-GB")} more` : ""}`;
}

const WAYS_SHOWN = 4;

/** The first few ways in, and how many more there are. */
export function wayWords(ways: Way[]): string {
  const more = ways.length - WAYS_SHOWN;
  const first = ways.slice(0, WAYS_SHOWN).map((way) => way.words);
  return `${first.join("; ")}${more > 0 ? ` and ${more.toLocaleString("en-GB")} more` : ""}`;
}

/** A size in words: `1.2 MB`. */
export function bytesWords(bytes: number): string {
  const unit = BYTE_UNITS.findLast(([size]) => bytes >= size) ?? BYTE_UNITS[0];
  return new Intl.NumberFormat("en-GB", { style: "unit", unit: unit[1], maximumFractionDigits: 1 }).format(
    bytes / unit[0],
  );
}
const BYTE_UNITS = [
  [1, "byte"],
  [1_000, "kilobyte"],
  [1_000_000, "megabyte"],
  [1_000_000_000, "gigabyte"],
] as const;
