import { DAY, rfc3339 } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { WrittenLetter } from "../messages/letters";
import { askLetter, type LetterContent, waiverEndsLetter } from "../messages/letterWords";
import { signed } from "../platform/signed";

/** An owner may answer a while after their grace is over: what has gone into a docket by then is said on the page. */
const ANSWER_HOLDS_S = 30 * DAY;

/** Asks an owner about their shares; null where nothing is asked of them any more. */
export async function askContent(app: Asking, { id, madeAt }: WrittenLetter): Promise<LetterContent | null> {
  const demands = await app.db
    .selectFrom("demand")
    .select(["rule", "subject", "due_at"])
    .where("letter_id", "=", id)
    .where("state", "=", "asked")
    .execute();
  const rules = [...new Set(demands.map(({ rule }) => rule))];
  const subjects = demands.map(({ subject }) => subject);
  const breaches = demands.length === 0 ? [] : await app.engine.ask("breaches", { rules, subjects });
  const asked = breaches.filter((one) => demands.some((d) => d.rule === one.rule && d.subject === one.subject));
  if (asked.length === 0) return null;
  const due = Math.min(...demands.map(({ due_at }) => due_at!));
  const token = signed(app, "answer", String(id), Math.max(madeAt, due) + ANSWER_HOLDS_S);
  return askLetter(asked, due, `${app.settings.url}/answer#${token}`);
}

/** Tells whoever gave waivers that they are about to end. */
export async function waiversContent(app: Asking, { target, madeAt }: WrittenLetter): Promise<LetterContent | null> {
  const ending = await app.db
    .selectFrom("waiver")
    .select(["share_id", "rule", "reason", "until"])
    .where("given_by", "=", target)
    .where("warned_at", "=", rfc3339(madeAt))
    .where("ended_at", "is", null)
    .orderBy("until")
    .execute();
  if (ending.length === 0) return null;
  const rows = await app.engine.ask("rows", { ids: ending.map(({ share_id }) => share_id) });
  const named = ending.map((one) => ({
    ...one,
    itemName: rows.find(({ id }) => id === one.share_id)?.itemName ?? "A share that no longer exists",
  }));
  return waiverEndsLetter(named, `${app.settings.url}/rules/waivers`);
}
