import type { Selectable } from "kysely";
import type { Seconds } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import type { NoticeTable } from "../platform/db/schema";
import { type Channels, channelsOf } from "./channels";
import { sendLetters } from "./letters";
import type { Message } from "./message";
import { afterSending } from "./retrying";
import { SENDING } from "./sending";
import type { Asking } from "../engine/client";

const MOST_AT_ONCE = 100;

type Notice = Selectable<NoticeTable>;

/** Sends what is due. What fails is tried again later, less and less often, and set aside after a day. */
export async function sendDue(app: Asking): Promise<void> {
  const now = app.clock.seconds();
  const dueIn = (state: "waiting" | "held") =>
    app.db
      .selectFrom("notice")
      .selectAll()
      .where("state", "=", state)
      .where("next_at", "<=", now)
      .orderBy("next_at")
      .orderBy("id");
  // However many were held, they are one digest.
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

async function send(app: Asking, channels: Channels, notices: readonly Notice[], now: Seconds) {
  const [{ channel, target }] = notices;
  let error: string | null = null;
  try {
    await SENDING[channel](app, channels, target, await messageOf(app.db, notices));
  } catch (failure) {
    error = (failure as Error).message;
  }
  // A crash just here sends it twice: it is better told twice than not at all.
  await writing(app.db, async (within) => {
    for (const one of notices)
      await within
        .updateTable("notice")
        .set(afterSending(one, error, now))
        .where("id", "=", one.id)
        .execute();
  });
}

async function messageOf(db: Db, notices: readonly Notice[]): Promise<Message> {
  const alerts = await db
    .selectFrom("alert")
    .leftJoin("watch", "watch.id", "alert.watch_id")
    .select(["alert.id", "alert.severity", "alert.words", "alert.last_at", "alert.count", "watch.name"])
    .where(
      "alert.id",
      "in",
      notices.map(({ alert_id }) => alert_id),
    )
    .orderBy("alert.id")
    .execute();
  return {
    isDigest: notices[0].state === "held",
    alerts: alerts.map(({ id, severity, words, last_at, count, name }) => {
      return { id, severity, words, at: last_at, count, watch: name ?? "a watch that was dropped" };
    }),
  };
}

/** What goes out at the moment, and what goes out after it. */
export class Outbox {
  now?: Promise<void>;
  next?: Promise<void>;
}

/** What is needed to send messages. */
export interface Sending extends Asking {
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
