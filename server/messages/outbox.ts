import type { Selectable } from "kysely";
import type { Seconds } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import type { NoticeTable } from "../platform/db/schema";
import { type Channels, channelsOf } from "./channels";
import { type Composing, sendLetters } from "./letters";
import type { Message } from "./message";
import { afterSending } from "./retrying";
import { SENDING } from "./sending";

const MOST_AT_ONCE = 100;

type Notice = Selectable<NoticeTable>;

/** Sends what is due. What fails is tried again later, less and less often, and set aside after a day. */
export async function sendDue(app: Composing): Promise<void> {
  const now = app.clock.seconds();
  const dueIn = (state: "waiting" | "held") =>
    app.db
      .selectFrom("notice")
      .selectAll()
      .where("state", "=", state)
      .where("next_at", "<=", now)
      .orderBy("next_at")
      .orderBy("id");
  // Held messages make one digest, however many they are.
  const due = [...(await dueIn("waiting").limit(MOST_AT_ONCE).execute()), ...(await dueIn("held").execute())];
  const channels = await channelsOf(app);
  for (const together of messagesOf(due)) await send(app, channels, together, now);
  await sendLetters(app, channels, now);
}

/** Lets a digest go out now. @returns how many alerts are in it */
export async function releaseHeld(db: Db, watch: string): Promise<number> {
  const { numUpdatedRows } = await db
    .updateTable("notice")
    .set({ due_at: db.clock.seconds(), next_at: db.clock.seconds() })
    .where("watch_id", "=", watch)
    .where("state", "=", "held")
    .executeTakeFirst();
  return Number(numUpdatedRows);
}

/** Held ones of one watch that go to one place are one message; each other is one of its own. */
function messagesOf(due: readonly Notice[]): Notice[][] {
  const digests = new Map<string, Notice[]>();
  for (const one of due) {
    const key = one.state === "held" ? [one.watch_id, one.channel, one.target].join("\n") : String(one.id);
    digests.set(key, [...(digests.get(key) ?? []), one]);
  }
  return [...digests.values()];
}

async function send(app: Composing, channels: Channels, notices: readonly Notice[], now: Seconds) {
  const [{ channel, target }] = notices;
  let error: string | null = null;
  try {
    await SENDING[channel](app, channels, target, await messageOf(app, notices));
  } catch (failure) {
    error = (failure as Error).message;
  }
  // A crash right here sends it twice: better twice than not at all.
  await writing(app.db, async (within) => {
    for (const one of notices)
      await within
        .updateTable("notice")
        .set(afterSending(one, error, now))
        .where("id", "=", one.id)
        .execute();
  });
}

async function messageOf(app: Composing, notices: readonly Notice[]): Promise<Message> {
  const ids = notices.map(({ alert_id }) => alert_id);
  return { isDigest: notices[0].state === "held", alerts: await app.composers.alerts(app.db, ids) };
}

/** By watch: how many of its messages are in a state. */
export async function countNotices(db: Db, state: Notice["state"]): Promise<Map<string, number>> {
  const rows = await db
    .selectFrom("notice")
    .select((eb) => ["watch_id", eb.fn.countAll<number>().as("count")])
    .where("state", "=", state)
    .groupBy("watch_id")
    .execute();
  return new Map(rows.map(({ watch_id, count }) => [watch_id, Number(count)]));
}

/** Messages of every kind that could not go out: set aside after a day, or tried again. */
export function unsent(db: Db): Promise<{ aside: number; late: number }> {
  return db
    .selectFrom((eb) =>
      eb
        .selectFrom("notice")
        .select(["state", "tries"])
        .unionAll(eb.selectFrom("letter").select(["state", "tries"]))
        .as("message"),
    )
    .select((eb) => [
      eb.fn.countAll<number>().filterWhere("state", "=", "aside").as("aside"),
      eb.fn.countAll<number>().filterWhere("state", "=", "waiting").filterWhere("tries", ">", 0).as("late"),
    ])
    .executeTakeFirstOrThrow();
}

/** What goes out at the moment, and what goes out after it. */
export class Outbox {
  now?: Promise<void>;
  next?: Promise<void>;
}

/** What is needed to send messages. */
export interface Sending extends Composing {
  readonly outbox: Outbox;
}

/** Sends what is due, one after the other: calls while one goes on share the next, for what has become due since. */
export function sendNow(app: Sending): Promise<void> {
  const { outbox } = app;
  if (!outbox.now) return (outbox.now = sendDue(app).finally(() => delete outbox.now));
  return (outbox.next ??= outbox.now
    .catch(() => undefined)
    .then(() => {
      delete outbox.next;
      return sendNow(app);
    }));
}
