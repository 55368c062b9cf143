import type { DeskLine } from "@/contract/desk";
import type { DayWords } from "@/core/text/words";
import { seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { WARNED_S } from "./due";
import { ownEngagements } from "./engagements";

const MOST_NAMED = 10;

/** What the Desk says of engagements: which end soon. */
export async function engagementLines(db: Db, days: DayWords): Promise<DeskLine[]> {
  const now = db.clock.seconds();
  return (await ownEngagements(db))
    .map(({ record, row }) => ({ ends: seconds(record.endsAt), name: record.name, row }))
    .filter(({ ends }) => ends > now && ends - WARNED_S <= now)
    .sort((a, b) => a.ends - b.ends)
    .slice(0, MOST_NAMED)
    .map(({ ends, name, row }) => ({
      words: `The project “${name}” ends on ${days(ends)}. ${row.responsible} is responsible.`,
      href: `/people/project?id=${encodeURIComponent(row.id)}`,
      isPressing: false,
    }));
}
