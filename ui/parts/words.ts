import type { SomeItems, Way } from "@/core/preview/preview";
import { countWords, dayWords, listWords } from "@/core/text/words";
import { begun } from "@/core/text/text";
import { DAY, NEVER, seconds, type Seconds } from "@/core/time/instant";

export { countWords, dayWords, listWords };

/** How far a moment is: `today`, `in 9 days`, `5 months ago`. */
export function distanceWords(at: Seconds, now: Seconds): string {
  const days = Math.floor(at / DAY) - Math.floor(now / DAY);
  if (days === 0) return "today";
  const size = Math.abs(days);
  const words = size < 60 ? countWords(size, "day") : countWords(Math.round(size / 30.4), "month");
  return days > 0 ? `in ${words}` : `${words} ago`;
}

export function endWords(expires: Seconds): string {
  return expires === NEVER ? "no end" : dayWords(expires);
}

/** A moment with its time, in UTC: `23 Nov 2026, 09:14`. */
export function momentWords(text: string): string {
  return `${dayWords(seconds(text))}, ${text.slice(11, 16)}`;
}

/** A level or an id of ours as words: `very-high` is `Very high`. */
export function plainWords(id: string): string {
  return begun(id.replaceAll(/[-.]/g, " "));
}

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
