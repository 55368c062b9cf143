import { sql } from "kysely";
import type { LinkRecord } from "@/core/estate/records";
import type { Db } from "../platform/db/open";

/** A link that somebody is expected to use. */
export interface LinkInUse {
  link: LinkRecord;
  itemName: string;
  tellsRecipients: boolean;
}

/** Links in force that name somebody, and intake links. */
export async function linksInUse(db: Db): Promise<LinkInUse[]> {
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
