import type { NotNull, Selectable } from "kysely";
import type { Seconds } from "@/core/time/instant";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { LetterKind, LetterTable } from "../platform/db/schema";
import type { Platform } from "../platform/platform";
import { resealEach } from "../platform/resealing";
import type { Channels } from "./channels";
import type { LetterContent } from "./letterWords";
import type { ToldAlert } from "./message";
import { afterSending } from "./retrying";
import { mailBy } from "./sending";
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

type Letter = Selectable<LetterTable>;

/** A letter that is to go out now, as it was written down. */
export interface WrittenLetter {
  id: number;
  target: string;
  madeAt: Seconds;
}

/** What rooms above say in messages: content is made when it goes out, of what is so then. */
export interface Composers {
  /** Null where there is nothing left to tell of. Letters about a docket have their content with them. */
  letters: Partial<Record<LetterKind, (app: Asking, letter: WrittenLetter) => Promise<LetterContent | null>>>;
  /** Alerts as they are told, by their ids. */
  alerts: (db: Db, ids: readonly number[]) => Promise<ToldAlert[]>;
}

/** What is needed to compose messages. */
export interface Composing extends Asking {
  readonly composers: Composers;
}

/** Sends the letters that are due. What fails is tried again later, and set aside after a day. */
export async function sendLetters(app: Composing, { mail }: Channels, now: Seconds): Promise<void> {
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
async function contentOf(app: Composing, letter: Letter): Promise<LetterContent | null> {
  if (letter.content !== null) return JSON.parse(app.secrets.unseal(letter.content));
  const { id, kind, target, made_at } = letter;
  const compose = app.composers.letters[kind];
  if (!compose) throw new Error(`nobody can write a letter of kind ${kind}`);
  return compose(app, { id, target, madeAt: made_at });
}

/** Letters about a docket, in the order in which they were written. */
export function lettersAbout(db: Reads, docketId: string) {
  return db
    .selectFrom("letter")
    .select(["kind", "target", "state"])
    .where("docket_id", "=", docketId)
    .orderBy("id")
    .execute();
}

/** To whom letters of a kind were written after an instant. */
export async function writtenTo(db: Reads, kind: LetterKind, after: Seconds): Promise<Set<string>> {
  const letters = await db
    .selectFrom("letter")
    .select("target")
    .where("kind", "=", kind)
    .where("made_at", ">", after)
    .execute();
  return new Set(letters.map(({ target }) => target));
}

/** @returns how many that have not gone out were sealed anew */
export async function resealLetters({ secrets }: Platform, tx: Tx): Promise<number> {
  const kept = await tx
    .selectFrom("letter")
    .select(["id", "content as sealed"])
    .where("content", "is not", null)
    .$narrowType<{ sealed: NotNull }>()
    .execute();
  return resealEach(secrets, kept, (id, content) =>
    tx.updateTable("letter").set({ content }).where("id", "=", id).execute(),
  );
}
