import { RULES, type RuleId } from "@/core/rules/list";
import { countWords } from "@/core/text/words";
import { HOUR, rfc3339 } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import { moveDocket } from "../dockets/lifecycle";
import { beingApplied, changesSince } from "../dockets/standing";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";
import { raiseOnce, watchOverRules } from "../trail";

/** How many changes an hour rules make by themselves; any more wait, and an alert says so. */
export const MOST_CHANGES_AN_HOUR = 200;
const STOPPED = "enforcing-stopped";

/** Who stopped all enforcing, and when; null where nobody has. */
export interface Stop {
  by: string;
  at: string;
}

export async function enforcingStopped(db: Db): Promise<Stop | null> {
  const body = await savedText(db, "", STOPPED);
  return body ? (JSON.parse(body) as Stop | null) : null;
}

/** Stops or resumes all enforcement by rules. */
export async function stopEnforcing(db: Db, actor: string, isStopped: boolean): Promise<void> {
  await writing(db, async (within) => {
    const stop: Stop | null = isStopped ? { by: actor, at: rfc3339(within.clock.seconds()) } : null;
    await saveText(within, "", STOPPED, JSON.stringify(stop));
    if (isStopped) for (const id of await beingApplied(within, "enforce")) await moveDocket(within, id, "pause", actor);
    await appendWithin(within, actor, isStopped ? "enforcing-stopped" : "enforcing-goes-on", {});
  });
}

/** How many changes rules may still make by themselves within this hour. */
export async function leftThisHour(db: Db): Promise<number> {
  const count = await changesSince(db, "enforce", rfc3339(db.clock.seconds() - HOUR));
  return Math.max(MOST_CHANGES_AN_HOUR - count, 0);
}

/** Raises an alert, once an hour at most, that a rule wants to change more than it may. */
export async function raiseCap(db: Db, rule: RuleId, waiting: number): Promise<boolean> {
  const now = db.clock.seconds();
  const words = `“${RULES[rule].title}” wants to change more than ${MOST_CHANGES_AN_HOUR} shares in an hour; ${countWords(waiting, "change")} waiting`;
  return raiseOnce(db, () => watchOverRules(db), { key: `cap ${rule} ${Math.floor(now / HOUR)}`, at: now, words });
}
