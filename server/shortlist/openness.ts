import type { Weighing } from "@/core/advice/weighing";
import { LABELS } from "@/core/estate/records";
import { DAY, type Seconds, utcDay } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { Reads } from "../platform/db/open";
import { weighingSetting } from "./weighing";

/** How much was open at the beginning of a day, in UTC. */
interface Openness {
  day: string;
  mass: number;
  /** Whether it was worked out later from the facts: shares that ended before a store was first read may be missing. */
  afterwards: boolean;
}

const MONTH: Seconds = 30 * DAY;

/** With more shares than this, the state of a month ago isn't worked out: others would wait too long. */
const MOST_ASKED_BACK = 50_000;

/** Records once a day how much is open, so that changes can be shown. */
export async function recordOpenness(app: Asking): Promise<void> {
  const weighing = await weighingSetting(app.db);
  const now = app.clock.seconds();
  if (!(await lastOpenness(app.db, weighing, now, now))) await record(app, weighing, null);
  await askBack(app, weighing, now - MONTH);
}

/**
 * Where nothing was put down a month ago, as at first, or after labels have been given other weights, the facts of then
 * are asked once.
 */
async function askBack(app: Asking, weighing: Weighing, then: Seconds) {
  if (await lastOpenness(app.db, weighing, then - MONTH, then)) return;
  const [shares] = await app.engine.ask("counts", { queries: [""] });
  if (shares <= MOST_ASKED_BACK) await record(app, weighing, then);
}

async function record({ db, clock, engine }: Asking, weighing: Weighing, past: Seconds | null) {
  const mass = await engine.ask("mass", { weighing }, past ?? undefined);
  const day = utcDay(past ?? clock.seconds());
  await db
    .insertInto("openness")
    .values({ day, weights: weightsText(weighing), mass, afterwards: past === null ? 0 : 1 })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
}

/** How much was open a month ago, or on the first day since then that was put down; null where there is none yet. */
export async function opennessBefore(db: Reads, weighing: Weighing, now: Seconds): Promise<Openness | null> {
  const monthAgo = await lastOpenness(db, weighing, now - 2 * MONTH, now - MONTH);
  return monthAgo ?? opennessBetween(db, weighing, [now - MONTH, now - DAY], "asc");
}

const lastOpenness = (db: Reads, weighing: Weighing, from: Seconds, to: Seconds) =>
  opennessBetween(db, weighing, [from, to], "desc");

async function opennessBetween(db: Reads, weighing: Weighing, [from, to]: [Seconds, Seconds], order: "asc" | "desc") {
  const found = await db
    .selectFrom("openness")
    .select(["day", "mass", "afterwards"])
    .where("weights", "=", weightsText(weighing))
    .where("day", ">=", utcDay(from))
    .where("day", "<=", utcDay(to))
    .orderBy("day", order)
    .executeTakeFirst();
  return found ? { ...found, afterwards: found.afterwards === 1 } : null;
}

/** Identifies comparable figures: prices don't change how much is open. */
const weightsText = ({ weights }: Weighing) => LABELS.map((label) => weights[label]).join();
