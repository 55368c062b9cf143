import type { SavedWatch } from "@/core/trail/savedWatch";
import { nothingSentIn, notOpened, type NotYet } from "@/core/trail/notYet";
import { DAY, type Seconds } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import { newAlert } from "./raising";
import { type LinkInUse, linksInUse } from "../records/links";
import { watchesOn } from "./watches";
import { isAmong } from "../platform/db/among";

/** A question that an owner has not answered. */
export interface Unanswered {
  id: number;
  subject: string;
  owner: string;
  /** What is asked about, in words. */
  about: string;
  /** When they were asked. */
  at: Seconds;
}

/**
 * Raises what was expected and has not happened, each once.
 * @param unansweredAt what owners were asked up to an instant and have not answered
 * @returns how many alerts are new
 */
export async function raiseNotYet(
  db: Db,
  unansweredAt: (db: Db, asked: Seconds) => Promise<Unanswered[]>,
): Promise<number> {
  const watches = (await watchesOn(db)).filter(({ watch }) => watch.kind !== "events");
  if (watches.length === 0) return 0;
  const now = db.clock.seconds();
  const links = await linksInUse(db);
  let alerts = 0;
  for (const kept of watches) {
    const ofLinks = links.flatMap(({ link, ...one }) =>
      overdueOf(kept, { link, ...one }, now).map((it) => ({ ...it, share: link.id, item: link.itemId })),
    );
    const asked = kept.watch.kind === "not-answered" ? now - kept.watch.days * DAY : null;
    const ofOwners = asked === null ? [] : (await unansweredAt(db, asked)).map((one) => silenceOf(kept, one));
    const overdue = [...ofLinks, ...ofOwners];
    const fresh = await untold(
      db,
      kept.id,
      overdue.filter(({ at }) => at >= kept.since),
    );
    if (fresh.length === 0) continue;
    await writing(db, async (within) => {
      for (const begun of fresh) await newAlert(within, kept, { ...begun, seq: null });
    });
    alerts += fresh.length;
  }
  return alerts;
}

function overdueOf({ watch }: SavedWatch, { link, itemName, tellsRecipients }: LinkInUse, now: Seconds): NotYet[] {
  // Where a store doesn't tell who opened a link, nobody can be said not to have.
  if (watch.kind === "not-opened") return tellsRecipients ? notOpened(link, itemName, watch.days, now) : [];
  return watch.kind === "nothing-sent-in" ? nothingSentIn(link, itemName, now) : [];
}

/** An owner who was asked so many days ago and has not answered about one share. */
function silenceOf({ watch }: SavedWatch, { id, subject, owner, about, at }: Unanswered) {
  const days = "days" in watch ? watch.days : 0;
  return {
    key: `demand ${id}`,
    at: at + days * DAY,
    person: owner,
    words: `${owner} hasn’t answered in ${days} days: ${about}`,
    share: subject,
    item: null,
  };
}

async function untold<T extends NotYet>(db: Db, watch: string, overdue: T[]): Promise<T[]> {
  const told = await db
    .selectFrom("alert")
    .select("key")
    .where("watch_id", "=", watch)
    .where(
      isAmong(
        "key",
        overdue.map(({ key }) => key),
      ),
    )
    .execute();
  const known = new Set(told.map(({ key }) => key));
  return overdue.filter(({ key }) => !known.has(key));
}
