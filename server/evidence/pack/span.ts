import { BY_NAME, type Naming } from "@/core/evidence/pseudonyms";
import { misunderstoodIn } from "@/core/query/parse";
import { DAY, seconds, type Seconds } from "@/core/time/instant";
import type { Platform } from "../../platform/platform";
import { Problem } from "../../platform/problem";
import type { PackSpan } from "./tables";

/** What a pack is asked for: days of UTC, both in, and a query that is empty for everything. */
export interface PackAsked {
  from: string;
  to: string;
  scope: string;
  /** Outsiders appear in it under pseudonyms. */
  pseudonyms?: boolean;
}

/** @throws {Problem} if the span is empty or the query isn't understood, since the pack would hold something else */
export function packSpan({ clock }: Platform, { from, to, scope }: PackAsked, naming: Naming = BY_NAME): PackSpan {
  const now = clock.seconds();
  const [begins, lastBegins] = [from, to].map((day) => seconds(`${day}T00:00:00Z`));
  if (begins > lastBegins) throw new Problem("bad", `from: ${from} is after ${to}, the last day.`);
  if (lastBegins > now) throw new Problem("bad", `to: ${to} hasn’t begun yet.`);
  const why = misunderstoodIn(scope);
  if (why) throw new Problem("bad", `No pack was made: ${why}.`);
  return { days: [from, to], from: begins, to: Math.min(lastBegins + DAY - 1, now), scope, naming };
}

/** The end of each of the two days, or now if that is earlier. */
export function endsOf({ from, to }: Pick<PackSpan, "from" | "to">): [first: Seconds, last: Seconds] {
  return [Math.min(from + DAY - 1, to), to];
}
