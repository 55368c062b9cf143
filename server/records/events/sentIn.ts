import { sql } from "kysely";
import type { Seconds } from "@/core/time/instant";
import type { Reads } from "../../platform/db/open";

/** An event of a file that was sent in, with the link and the item of which it speaks. */
export interface SentIn {
  seq: number;
  source: string;
  body: string;
  /** Id of the link; null where the event names none. */
  link: string | null;
  item: string | null;
}

interface Asked {
  link?: string;
  /** Only those that came before the one of this number. */
  before?: number;
  limit: number;
}

/** Files that were sent in, the newest first. */
export async function sentIn(db: Reads, { link, before, limit }: Asked): Promise<SentIn[]> {
  const { rows } = await sql<SentIn>`
    select event.seq, event.source, event.body, share.body ->> '$.key' as link, item.body ->> '$.name' as item
    from event
    left join spoken as share on share.id = event.share
    left join spoken as item on item.id = event.item
    where event.verb = 'sent-in' and event.seq < ${before ?? Number.MAX_SAFE_INTEGER}
      ${link === undefined ? sql`` : sql`and share.body ->> '$.key' = ${link}`}
    order by event.seq desc limit ${limit}`.execute(db);
  return rows;
}

/** How many files came in by each link, and when the last one did. */
export async function sentInByLink(db: Reads): Promise<Map<string, { came: number; last: Seconds }>> {
  const { rows } = await sql<{ link: string; came: number; last: Seconds }>`
    select share.body ->> '$.key' as link, count(*) as came, max(event.at) as last
    from event join spoken as share on share.id = event.share
    where event.verb = 'sent-in' group by event.share`.execute(db);
  return new Map(rows.map(({ link, came, last }) => [link, { came, last }]));
}

/** By hash: the number of the first event that tells of it, among some hashes. */
export async function firstWithHash(db: Reads, hashes: readonly string[]): Promise<Map<string, number>> {
  if (hashes.length === 0) return new Map();
  const { rows } = await sql<{ hash: string; first: number }>`
    select lower(body ->> '$.detail.sha256') as hash, min(seq) as first from event
    where verb = 'sent-in' and lower(body ->> '$.detail.sha256') in (select value from json_each(${JSON.stringify(hashes)}))
    group by 1`.execute(db);
  return new Map(rows.map(({ hash, first }) => [hash, first]));
}
