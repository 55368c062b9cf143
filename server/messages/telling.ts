import { DAY, type Seconds } from "@/core/time/instant";
import { dayBegan, whenToTell } from "@/core/trail/telling";
import type { Channel, Watch } from "@/core/trail/watch";
import type { Tx } from "../platform/db/open";

/** Older alerts are no news: they are on the Desk, and nobody is mailed. */
const NEWS_FOR_S = DAY;

/**
 * Records who is to be told of an alert, by which channel, and when.
 * @param doers those who caused it themselves and needn't be told
 */
export async function tell(
  db: Tx,
  { id, watch }: { id: string; watch: Watch },
  alert: number,
  at: Seconds,
  doers: ReadonlySet<string> = NOBODY,
) {
  const now = db.clock.seconds();
  if (at < now - NEWS_FOR_S) return;
  for (const [channel, target] of targetsOf(watch, doers)) {
    const when = whenToTell(watch, now, await toldToday(db, id, channel, target, dayBegan(watch.zone, now)));
    await db
      .insertInto("notice")
      .values({
        watch_id: id,
        alert_id: alert,
        channel,
        target,
        state: when.digest ? "held" : "waiting",
        made_at: now,
        due_at: when.digest ? when.at : now,
        next_at: when.digest ? when.at : now,
        sent_at: null,
        error: null,
      })
      .execute();
  }
}

const NOBODY: ReadonlySet<string> = new Set();

/** Whether a watch tells only those who caused what it saw. */
export function tellsOnly(watch: Watch, doers: ReadonlySet<string>): boolean {
  return doers.size > 0 && targetsOf(watch, doers).length === 0;
}

/** The webhook and the log have one place each, which the settings name. */
function targetsOf({ mail, webhook, syslog }: Watch, doers: ReadonlySet<string>): [Channel, string][] {
  const others = mail.filter((address) => !doers.has(address));
  return [
    ...others.map((address): [Channel, string] => ["mail", address]),
    ...(webhook ? ([["webhook", ""]] as [Channel, string][]) : []),
    ...(syslog ? ([["syslog", ""]] as [Channel, string][]) : []),
  ];
}

async function toldToday(db: Tx, watch: string, channel: Channel, target: string, since: Seconds): Promise<number> {
  const { count } = await db
    .selectFrom("notice")
    .select((eb) => eb.fn.countAll<number>().as("count"))
    .where("watch_id", "=", watch)
    .where("channel", "=", channel)
    .where("target", "=", target)
    .where("state", "!=", "held")
    // What had to wait went out in a digest, whose alerts are no messages of their own.
    .whereRef("due_at", "=", "made_at")
    .where("made_at", ">=", since)
    .executeTakeFirstOrThrow();
  return Number(count);
}
