import type { Weighing } from "@/core/advice/weighing";
import { LABELS } from "@/core/estate/records";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { Reads } from "../platform/db/open";
import { weighingSetting } from "./weighing";

/** How much was open at the beginning of a day, in UTC. */
interface Openness {
  day: string;
  mass: number;
  /** Whether it was asked of the facts only later: what had ended before a store was first read may be missing. */
  afterwards: boolean;
}

const MONTH: Seconds = 30 * DAY;

/**
 * Puts down once a day how much is open, so that it can be told how that has changed. Where nothing was put down a month
 * ago, as at first, or after labels have been given other weights, the facts of then are asked once.
 */
export async function recordOpenness({ db, clock, engine }: Asking): Promise<void> {
  const weighing = await weighingSetting(db);
  const now = clock.seconds();
  for (const at of [now, now - MONTH]) {
    const since = at === now ? dayOf(now) : dayOf(at - MONTH);
    if (await opennessBetween(db, weighing, since, dayOf(at))) continue;
    const mass = await engine.ask("mass", { weighing }, at === now ? undefined : at);
    await db
      .insertInto("openness")
      .values({ day: dayOf(at), weights: weightsText(weighing), mass, afterwards: at === now ? 0 : 1 })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  }
}

/** The last that was put down a month ago or before, though not long before. */
export function opennessBefore(db: Reads, weighing: Weighing, now: Seconds): Promise<Openness | null> {
  return opennessBetween(db, weighing, dayOf(now - 2 * MONTH), dayOf(now - MONTH));
}

async function opennessBetween(db: Reads, weighing: Weighing, from: string, to: string): Promise<Openness | null> {
  const found = await db
    .selectFrom("openness")
    .select(["day", "mass", "afterwards"])
    .where("weights", "=", weightsText(weighing))
    .where("day", ">=", from)
    .where("day", "<=", to)
    .orderBy("day", "desc")
    .executeTakeFirst();
  return found ? { ...found, afterwards: found.afterwards === 1 } : null;
}

const dayOf = (at: Seconds) => rfc3339(at).slice(0, 10);
/** By these it is told what can be compared: prices don't change how much is open. */
const weightsText = ({ weights }: Weighing) => LABELS.map((label) => weights[label]).join();
