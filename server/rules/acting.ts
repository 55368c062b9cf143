import { RULE_WORDS, type RuleId } from "@/core/rules/ruleWords";
import { countWords } from "@/core/text/words";
import { HOUR, rfc3339 } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import { moveDocket } from "../dockets/lifecycle";
import { keepText, keptText } from "../platform/saved";
import { appendWithin } from "../records/ledger";
import { newAlert } from "../trail/raising";
import { watchOverRules } from "../trail/shipped";

/** So many changes an hour do rules make by themselves; what is more waits, and an alert says so. */
export const MOST_ACTS_AN_HOUR = 200;
const STOPPED = "acting-stopped";

/** Who stopped all acting, and when; null where nobody has. */
export interface Stop {
  by: string;
  at: string;
}

export async function actingStopped(db: Db): Promise<Stop | null> {
  const body = await keptText(db, "", STOPPED);
  return body ? (JSON.parse(body) as Stop | null) : null;
}

/** Stops all that rules do by themselves at once, or lets it go on. */
export async function stopActing(db: Db, actor: string, isStopped: boolean): Promise<void> {
  await writing(db, async (within) => {
    const stop: Stop | null = isStopped ? { by: actor, at: rfc3339(within.clock.seconds()) } : null;
    await keepText(within, "", STOPPED, JSON.stringify(stop));
    if (isStopped) for (const id of await beingApplied(within)) await moveDocket(within, id, "pause", actor);
    await appendWithin(within, actor, isStopped ? "acting-stopped" : "acting-goes-on", {});
  });
}

/** Dockets by which rules act at the moment. */
async function beingApplied(db: Reads): Promise<string[]> {
  const dockets = await db
    .selectFrom("docket")
    .select("id")
    .where("origin", "=", "act")
    .where("state", "=", "applying")
    .execute();
  return dockets.map(({ id }) => id);
}

/** How many changes rules may still make by themselves within this hour. */
export async function leftThisHour(db: Db): Promise<number> {
  const { count } = await db
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .where("docket.origin", "=", "act")
    .where("docket.made_at", ">", rfc3339(db.clock.seconds() - HOUR))
    .executeTakeFirstOrThrow();
  return Math.max(MOST_ACTS_AN_HOUR - Number(count), 0);
}

/** Raises an alert, once an hour at most, that a rule wants to change more than it may. */
export async function raiseCap(db: Db, rule: RuleId, waiting: number): Promise<boolean> {
  const now = db.clock.seconds();
  const key = `cap ${rule} ${Math.floor(now / HOUR)}`;
  const known = await db.selectFrom("alert").select("id").where("key", "=", key).executeTakeFirst();
  if (known) return false;
  const words = `“${RULE_WORDS[rule].title}” wants to change more than ${MOST_ACTS_AN_HOUR} shares in an hour; ${countWords(waiting, "change")} wait`;
  const nothing = { seq: null, share: null, item: null, person: null };
  const watch = await watchOverRules(db);
  await writing(db, (within) => newAlert(within, watch, { key, at: now, words, ...nothing }));
  return true;
}
