import type { KeptWatch } from "@/core/trail/keptWatch";
import { sql } from "kysely";
import type { LinkRecord } from "@/core/estate/records";
import { nothingSentIn, notOpened, type NotYet } from "@/core/trail/notYet";
import { RULE_WORDS } from "@/core/rules/ruleWords";
import { DAY, type Seconds } from "@/core/time/instant";
import { type Db, writing } from "../platform/db/open";
import { newAlert } from "./raising";
import { watchesOn } from "./watches";

interface NamedLink {
  link: LinkRecord;
  itemName: string;
  tellsRecipients: boolean;
}

/** Raises what was expected and has not happened, each once. @returns how many alerts are new */
export async function raiseNotYet(db: Db): Promise<number> {
  const watches = (await watchesOn(db)).filter(({ watch }) => watch.kind !== "acts");
  if (watches.length === 0) return 0;
  const now = db.clock.seconds();
  const links = await linksInQuestion(db);
  let alerts = 0;
  for (const kept of watches) {
    const ofLinks = links.flatMap(({ link, ...one }) =>
      overdueOf(kept, { link, ...one }, now).map((it) => ({ ...it, share: link.id, item: link.itemId })),
    );
    const overdue = [...ofLinks, ...(await unanswered(db, kept, now))];
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

function overdueOf({ watch }: KeptWatch, { link, itemName, tellsRecipients }: NamedLink, now: Seconds): NotYet[] {
  // Where a store doesn't tell who opened a link, nobody can be said not to have.
  if (watch.kind === "not-opened") return tellsRecipients ? notOpened(link, itemName, watch.days, now) : [];
  return watch.kind === "nothing-sent-in" ? nothingSentIn(link, itemName, now) : [];
}

/** Owners who were asked so many days ago and have not answered, share by share. */
async function unanswered(db: Db, { watch }: KeptWatch, now: Seconds) {
  if (watch.kind !== "not-answered") return [];
  const asked = await db
    .selectFrom("demand")
    .select(["id", "rule", "subject", "owner", "begun_at"])
    .where("state", "=", "asked")
    .where("owner", "!=", "")
    .where("begun_at", "<=", now - watch.days * DAY)
    .execute();
  return asked.map(({ id, rule, subject, owner, begun_at }) => ({
    key: `demand ${id}`,
    at: begun_at! + watch.days * DAY,
    person: owner,
    words: `${owner} has not answered in ${watch.days} days: ${RULE_WORDS[rule].title}`,
    share: subject,
    item: null,
  }));
}

/** Links that hold and name somebody who has not opened them, and intake links. */
async function linksInQuestion(db: Db): Promise<NamedLink[]> {
  const { rows } = await sql<{ link: string; item: string | null; store: string | null }>`
    select link.body as link, item.body ->> '$.name' as item,
      (select store.body ->> '$.capabilities.perRecipientUse' from fact as store
        where store.type = 'store' and store.key = item.body ->> '$.storeId' and store."to" is null) as store
    from fact as link left join fact as item
      on item.type = 'item' and item.key = link.body ->> '$.itemId' and item."to" is null
    where link.type = 'link' and link."to" is null and link.body ->> '$.revokedAt' is null
      and (link.body ->> '$.reach' = 'named' or link.body ->> '$.role' = 'deposit')`.execute(db);
  return rows.map(({ link, item, store }) => {
    const record = JSON.parse(link) as LinkRecord;
    return { link: record, itemName: item ?? record.itemId, tellsRecipients: Boolean(store) };
  });
}

async function untold<T extends NotYet>(db: Db, watch: string, overdue: T[]): Promise<T[]> {
  const keys = JSON.stringify(overdue.map(({ key }) => key));
  const told = await db
    .selectFrom("alert")
    .select("key")
    .where("watch_id", "=", watch)
    .where(sql<boolean>`key in (select value from json_each(${keys}))`)
    .execute();
  const known = new Set(told.map(({ key }) => key));
  return overdue.filter(({ key }) => !known.has(key));
}
