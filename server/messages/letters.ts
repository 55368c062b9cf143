import { grouped } from "@/core/text/grouped";
import type { NotNull, Selectable } from "kysely";
import { DAY, type Seconds } from "@/core/time/instant";
import { isAmong } from "../platform/db/among";
import { type Db, type Reads, runForEach, type Tx, writing } from "../platform/db/open";
import type { LetterKind, LetterTable } from "../platform/db/schema";
import type { Platform } from "../platform/platform";
import { resealEach } from "../platform/resealing";
import type { Channels } from "./channels";
import { type LetterContent, mailOf } from "./letterWords";
import type { ToldAlert } from "./message";
import { afterSending } from "./retrying";
import { mailing, type SendMail } from "./sending";
import type { Asking } from "../engine/client";

/** Puts down a letter that is to go out now. @param about where it tells of a docket: which, and its `LetterContent`, sealed. @returns its id */
export async function writeLetter(
  db: Tx,
  kind: LetterKind,
  target: string,
  about?: { docketId: string | null; sealed: string },
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

type Letter = Selectable<LetterTable>;

/** A letter that is to go out now, as it was written down. */
export interface WrittenLetter {
  id: number;
  target: string;
  madeAt: Seconds;
}

/** What rooms above say in messages: content is made when it goes out, of what is so then. */
export interface Composers {
  /** Null where there is nothing left to tell. Letters about a docket carry their content. */
  letters: Partial<Record<LetterKind, (app: Asking, letter: WrittenLetter) => Promise<LetterContent | null>>>;
  /** Alerts as they are told, by their ids. */
  alerts: (db: Db, ids: readonly number[]) => Promise<ToldAlert[]>;
}

/** What is needed to compose messages. */
export interface Composing extends Asking {
  readonly composers: Composers;
}

/** How many people letters go out to at a time; the others get theirs a minute later. */
const MOST_AT_ONCE = 500;
/** Nobody gets more than one mail from us within this time, whatever there is to tell. */
const ONE_MAIL_S = DAY;

/**
 * Sends the letters that are due: to each person one mail a day with all that there is for them. What hands somebody the
 * new address of a link alone goes at once, since they get in nowhere without it. What fails is tried again later, and
 * set aside after a day.
 */
export async function sendLetters(app: Composing, { mail }: Channels, now: Seconds): Promise<void> {
  const due = await dueLetters(app.db, now);
  const had = await lastMails(app.db, now - ONE_MAIL_S);
  await mailing(mail, async (send) => {
    for (const [target, letters] of grouped(due, (letter) => letter.target)) {
      const last = had.get(target);
      const going = last === undefined ? letters : letters.filter((letter) => cantWait(app, letter));
      const later = letters.filter((letter) => !going.includes(letter));
      if (later.length > 0) await putOff(app.db, later, last! + ONE_MAIL_S);
      if (going.length > 0) await sendTogether(app, send, target, going, now);
    }
  });
}

/** Everything due to the first person to whom anything is due. */
async function dueLetters(db: Db, now: Seconds): Promise<Letter[]> {
  const due = db.selectFrom("letter").where("state", "=", "waiting").where("next_at", "<=", now);
  const targets = await due.select("target").distinct().orderBy("target").limit(MOST_AT_ONCE).execute();
  const among = isAmong(
    "target",
    targets.map(({ target }) => target),
  );
  return due.selectAll().where(among).orderBy("id").execute();
}

/** By address: when they last had a mail, of those who had one after an instant. */
async function lastMails(db: Reads, after: Seconds): Promise<Map<string, Seconds>> {
  const sent = await db
    .selectFrom("letter")
    .select((eb) => ["target", eb.fn.max("sent_at").as("at")])
    .where("sent_at", ">", after)
    .groupBy("target")
    .execute();
  return new Map(sent.map(({ target, at }) => [target, Number(at)]));
}

function cantWait(app: Composing, { content }: Letter): boolean {
  return content !== null && (JSON.parse(app.secrets.unseal(content)) as LetterContent).cantWait === true;
}

function putOff(db: Db, letters: readonly Letter[], until: Seconds): Promise<void> {
  const ids = letters.map(({ id }) => id);
  return writing(db, async (tx) => {
    await tx.updateTable("letter").set({ due_at: until, next_at: until }).where("id", "in", ids).execute();
  });
}

async function sendTogether(app: Composing, send: SendMail, target: string, letters: Letter[], now: Seconds) {
  let error: string | null = null;
  let isEmpty = false;
  try {
    const contents = await Promise.all(letters.map((letter) => contentOf(app, letter)));
    const told = contents.filter((content) => content !== null);
    isEmpty = told.length === 0;
    if (!isEmpty) await send({ to: target, ...mailOf(told) });
  } catch (failure) {
    error = (failure as Error).message;
  }
  await writing(app.db, async (tx) => {
    for (const letter of letters) {
      const outcome = { ...afterSending(letter, error, now), ...(error === null && { content: null }) };
      // Where there was nothing to tell, nobody has had a mail.
      const sent = isEmpty ? { ...outcome, sent_at: null } : outcome;
      await tx.updateTable("letter").set(sent).where("id", "=", letter.id).execute();
    }
  });
}

/** Null where there is nothing left to tell of. */
async function contentOf(app: Composing, letter: Letter): Promise<LetterContent | null> {
  if (letter.content !== null) return JSON.parse(app.secrets.unseal(letter.content));
  const { id, kind, target, made_at } = letter;
  const compose = app.composers.letters[kind];
  if (!compose) throw new Error(`nobody can write a letter of kind ${kind}`);
  return compose(app, { id, target, madeAt: made_at });
}

/** Puts down a letter of a kind to each of some people, except where one waits: what it says is put together when it goes out. */
export function writeLetters(tx: Tx, kind: LetterKind, targets: readonly string[]): void {
  const now = tx.clock.seconds();
  runForEach(
    tx,
    `insert into letter (kind, target, state, made_at, due_at, next_at) select ?, ?, 'waiting', ?, ?, ?
     where not exists (select 1 from letter where target = ? and kind = ? and state = 'waiting')`,
    targets.map((target) => [kind, target, now, now, now, target, kind]),
  );
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

/** To whom a letter of any kind was written, or went out, after an instant: another would wait. */
export async function writtenTo(db: Reads, after: Seconds): Promise<Set<string>> {
  const letters = await db
    .selectFrom("letter")
    .select("target")
    .distinct()
    .where((eb) => eb.or([eb("made_at", ">", after), eb("sent_at", ">", after), eb("state", "=", "waiting")]))
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
