import { changeWords } from "@/core/changes/changeWords";
import { changeSchema } from "@/core/changes/change";
import { type HandWork, isSeenDone, type Known } from "@/core/changes/byHand";
import type { ItemRecord, PersonRecord, ShareRecord, StoreRecord } from "@/core/estate/records";
import { byText } from "@/core/text/text";
import { Problem } from "../platform/problem";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { factNow } from "../records/facts";
import { safeCell } from "@/core/register/cells";
import { csvLines } from "@/core/text/csv";

type Row = { id: string; docket_id: string; share_id: string | null; body: string };

function openRows(db: Reads) {
  return db.selectFrom("docket_change").selectAll().where("state", "=", "by-hand").orderBy("position");
}

/**
 * Ticks off changes left to people that were made, as far as what is known now shows it. In the same `writing`
 * as the news.
 * @param source how it became known, in words
 * @returns how many were ticked off
 */
export async function tickOff(db: Tx, source: string): Promise<number> {
  let ticked = 0;
  for (const row of await openRows(db).execute()) {
    if (!isSeenDone(changeOf(row), await knownOf(db, row))) continue;
    await settle(db, row, { answer: "Done by hand.", probe: `${source} shows it.`, by: "import" });
    ticked++;
  }
  return ticked;
}

/** Takes somebody's word that they have made a change. @throws {Problem} where it isn't one to be made by hand */
export function sayDone(db: Db, docketId: string, subject: string, actor: string): Promise<void> {
  return writing(db, async (within) => {
    const row = await openRows(within)
      .where("docket_id", "=", docketId)
      .where("subject", "=", subject)
      .executeTakeFirst();
    if (!row)
      throw new Problem(
        "conflict",
        "This change doesn’t have to be done by hand, or is already done. Reload the list to see what is left.",
      );
    await settle(within, row, { answer: `Done by hand, according to ${actor}.`, probe: null, by: actor });
  });
}

async function settle(db: Tx, row: Row, { answer, probe, by }: { answer: string; probe: string | null; by: string }) {
  const at = db.clock.text();
  await db
    .updateTable("docket_change")
    .set({ state: "done", answer, probe, checked: 1, answered_at: at, probed_at: probe && at })
    .where("id", "=", row.id)
    .execute();
  await appendWithin(db, by, "change-done", {
    docket: row.docket_id,
    change: JSON.parse(row.body),
    answer,
    probe,
  });
}

const changeOf = (row: Row) => changeSchema.parse(JSON.parse(row.body));

async function knownOf(db: Reads, row: Row): Promise<Known> {
  const change = changeOf(row);
  const share = row.share_id === null ? null : await shareNow(db, row.share_id);
  const itemId = "itemId" in change ? change.itemId : share?.itemId;
  return { share, item: itemId === undefined ? null : await factNow<ItemRecord>(db, "item", itemId) };
}

async function shareNow(db: Reads, id: string): Promise<ShareRecord | null> {
  return (await factNow<ShareRecord>(db, "link", id)) ?? factNow<ShareRecord>(db, "grant", id);
}

/** What is left to do by hand in a docket, by owner and then by place. */
export async function handWorkOf(db: Db, docketId: string): Promise<HandWork[]> {
  const work: HandWork[] = [];
  for (const row of await openRows(db).where("docket_id", "=", docketId).execute()) {
    work.push({
      subject: row.subject,
      ...(await ownerAndPlace(db, row)),
      itemName: row.item_name,
      audience: row.audience,
      words: changeWords(changeOf(row)),
    });
  }
  return work.sort((a, b) => byText(a.owner, b.owner) || byText(a.where, b.where) || byText(a.itemName, b.itemName));
}

/** The name of the owner of a change's item, empty if unknown; and where the item is. */
export async function ownerAndPlace(db: Reads, row: Row): Promise<{ owner: string; where: string }> {
  const { item } = await knownOf(db, row);
  const owner = item?.ownerId ? await factNow<PersonRecord>(db, "person", item.ownerId) : null;
  return { owner: owner?.name ?? "", where: await whereWords(db, item) };
}

/** The store and the folders above an item. */
async function whereWords(db: Reads, item: ItemRecord | null): Promise<string> {
  if (item === null) return "";
  const names: string[] = [];
  const seen = new Set<string>();
  for (let id = item.parentId; id !== null && !seen.has(id);) {
    seen.add(id);
    const above: ItemRecord | null = await factNow<ItemRecord>(db, "item", id);
    if (above) names.unshift(above.name);
    id = above?.parentId ?? null;
  }
  const store = await factNow<StoreRecord>(db, "store", item.storeId);
  return [store?.name ?? item.storeId, ...names].join(" / ");
}

/** The same as a table, safe to open in a spreadsheet. */
export function handWorkCsv(work: readonly HandWork[]): string {
  const heads = ["Owner", "Where", "Item", "Audience", "What to do", "Share"];
  const lines = work.map((one) => [one.owner, one.where, one.itemName, one.audience, one.words, one.subject]);
  return `\ufeff${csvLines([heads, ...lines.map((cells) => cells.map(safeCell))])}`;
}
