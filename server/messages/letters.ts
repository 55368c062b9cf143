import type { Selectable } from "kysely";
import { rfc3339 } from "@/core/time/instant";
import { DAY, type Seconds } from "@/core/time/instant";
import { type Tx, writing } from "../platform/db/open";
import type { LetterKind, LetterTable } from "../platform/db/schema";
import type { Channels } from "./channels";
import { askLetter, type LetterContent, waiverEndsLetter } from "./letterWords";
import { afterSending } from "./retrying";
import { mailBy } from "./sending";
import { signed } from "./signed";
import type { Asking } from "../engine/client";

/** Puts down a letter that is to go out now. @param about where it tells of a docket: which, and its `LetterContent`, sealed. @returns its id */
export async function writeLetter(
  db: Tx,
  kind: LetterKind,
  target: string,
  about?: { docketId: string; sealed: string },
): Promise<number> {
  const now = db.clock.seconds();
  const { id } = await db
    .insertInto("letter")
    .values({
      kind,
      target,
      state: "waiting",
      made_at: now,
      due_at: now,
      next_at: now,
      sent_at: null,
      error: null,
      docket_id: about?.docketId ?? null,
      content: about?.sealed ?? null,
    })
    .returning("id")
    .executeTakeFirstOrThrow();
  return id;
}

const MOST_AT_ONCE = 100;
/** An owner may answer a while after their grace is over: what has gone into a docket by then is said on the page. */
const ANSWER_HOLDS_S = 30 * DAY;

type Letter = Selectable<LetterTable>;

/** Sends the letters that are due. What fails is tried again later, and set aside after a day. */
export async function sendLetters(app: Asking, { mail }: Channels, now: Seconds): Promise<void> {
  const due = await app.db
    .selectFrom("letter")
    .selectAll()
    .where("state", "=", "waiting")
    .where("next_at", "<=", now)
    .orderBy("id")
    .limit(MOST_AT_ONCE)
    .execute();
  for (const letter of due) {
    let error: string | null = null;
    try {
      const content = await contentOf(app, letter);
      if (content) await mailBy(mail, { to: letter.target, ...content });
    } catch (failure) {
      error = (failure as Error).message;
    }
    const outcome = { ...afterSending(letter, error, now), ...(error === null && { content: null }) };
    await writing(app.db, (within) => within.updateTable("letter").set(outcome).where("id", "=", letter.id).execute());
  }
}

/** Null where there is nothing left to tell of. */
async function contentOf(app: Asking, letter: Letter): Promise<LetterContent | null> {
  if (letter.content !== null) return JSON.parse(app.secrets.unseal(letter.content));
  return letter.kind === "ask" ? askContent(app, letter) : waiversContent(app, letter);
}

async function askContent(app: Asking, { id, made_at }: Letter): Promise<LetterContent | null> {
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
  const token = signed(app, "answer", String(id), Math.max(made_at, due) + ANSWER_HOLDS_S);
  return askLetter(asked, due, `${app.settings.url}/answer/${token}`);
}

async function waiversContent(app: Asking, { target, made_at }: Letter): Promise<LetterContent | null> {
  const ending = await app.db
    .selectFrom("waiver")
    .select(["share_id", "rule", "reason", "until"])
    .where("given_by", "=", target)
    .where("warned_at", "=", rfc3339(made_at))
    .where("ended_at", "is", null)
    .orderBy("until")
    .execute();
  if (ending.length === 0) return null;
  const rows = await app.engine.ask("rows", { ids: ending.map(({ share_id }) => share_id) });
  const named = ending.map((one) => ({
    ...one,
    itemName: rows.find(({ id }) => id === one.share_id)?.itemName ?? "A share that has gone",
  }));
  return waiverEndsLetter(named, `${app.settings.url}/rules/waivers`);
}
