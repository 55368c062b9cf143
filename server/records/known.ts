import { sql } from "kysely";
import type { RecordType } from "@/core/estate/records";
import type { IdSpace, Known, TreeItem } from "@/core/estate/references";
import type { Reads } from "../platform/db/open";

/**
 * What is known when a source adds a file: its own trees whole, and what of others can be referred to.
 * @param isRead by id, the names of stores that are read from the store itself
 */
export async function knownTo(db: Reads, source: string, isRead: ReadonlyMap<string, string>): Promise<Known> {
  const ids = await idsNow(db);
  const items = await ownItems(db, source);
  const below = new Map<string, TreeItem[]>();
  for (const item of items.values()) {
    if (item.parentId === null) continue;
    const siblings = below.get(item.parentId);
    if (siblings) siblings.push(item);
    else below.set(item.parentId, [item]);
  }
  const others = await storesOfOthers(db, source);
  const own = (type: RecordType, id: string) => ids.get(type)?.get(id) === source;
  const among = (space: IdSpace): RecordType[] => (space === "principal" ? ["person", "group"] : [space]);
  return {
    has: (space, id) => among(space).some((type) => ids.get(type)?.has(id)),
    typeOf: (space, id) =>
      ({
        principal: ["person", "group"] as const,
        share: ["grant", "link"] as const,
        item: ["item"] as const,
        store: ["store"] as const,
        engagement: ["engagement"] as const,
      })[space].find((type) => own(type, id)),
    item: (id) => items.get(id),
    itemsBelow: (id) => below.get(id) ?? [],
    whyNot: (storeId) => {
      const holder = others.get(storeId);
      const read = isRead.get(holder ?? storeId);
      if (read !== undefined) return `${read} is read from the store itself and can’t be imported`;
      return holder === undefined ? null : `store ${storeId} is known from ${holder}: import the file as ${holder}`;
    },
    storeOfOther: (itemId) => (items.has(itemId) ? undefined : others.storeOfItem(itemId)),
  };
}

/** By type and id: the source of what is known now. */
async function idsNow(db: Reads): Promise<Map<RecordType, Map<string, string>>> {
  const ids = new Map<RecordType, Map<string, string>>();
  const rows = await db
    .selectFrom("fact")
    .select(["type", "key", "source"])
    .where("to", "is", null)
    .where("type", "not in", ["member", "party", "estate"])
    .execute();
  for (const { type, key, source } of rows) {
    const known = ids.get(type);
    if (known) known.set(key, source);
    else ids.set(type, new Map([[key, source]]));
  }
  return ids;
}

async function ownItems(db: Reads, source: string): Promise<Map<string, TreeItem>> {
  const rows = await itemsNow(db).where("source", "=", source).execute();
  return new Map(rows.map((row) => [row.id, row]));
}

function itemsNow(db: Reads) {
  return db
    .selectFrom("fact")
    .select([
      "key as id",
      sql<string | null>`body ->> '$.parentId'`.as("parentId"),
      sql<string>`body ->> '$.storeId'`.as("storeId"),
      sql<TreeItem["kind"]>`body ->> '$.kind'`.as("kind"),
    ])
    .where("type", "=", "item")
    .where("to", "is", null);
}

async function storesOfOthers(db: Reads, source: string) {
  const stores = await db
    .selectFrom("fact")
    .select(["key", "source"])
    .where("type", "=", "store")
    .where("to", "is", null)
    .where("source", "<>", source)
    .execute();
  const holders = new Map(stores.map((one) => [one.key, one.source]));
  const items = new Map(
    (await itemsNow(db).where("source", "<>", source).execute()).map((one) => [one.id, one.storeId]),
  );
  return { get: (storeId: string) => holders.get(storeId), storeOfItem: (itemId: string) => items.get(itemId) };
}
