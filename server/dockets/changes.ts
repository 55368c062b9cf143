import { v7 as uuid } from "uuid";
import { type Change, changeSchema, isMaking, subjectOf, takesPlaceOf } from "@/core/changes/change";
import type { PlannedChange } from "@/core/changes/plan";
import type { Intent } from "@/core/changes/intent";
import { breathe, eachBreathing } from "../platform/breathe";
import type { Db, Reads, Tx } from "../platform/db/open";
import type { Asking } from "../engine/client";

/** All changes of a docket, in order. */
export async function changesIn(db: Db, docketId: string): Promise<Change[]> {
  return changesFrom(await bodiesIn(db, docketId));
}

/** A change from what is kept of it. */
export const changeFrom = (body: string): Change => changeSchema.parse(JSON.parse(body));

/** Of ten thousand, others are answered in between. */
export const changesFrom = (bodies: readonly string[]): Promise<Change[]> => eachBreathing(bodies, changeFrom);

/** The same as they are stored, to tell one set of changes from another. */
export async function bodiesIn(db: Reads, docketId: string): Promise<string[]> {
  const rows = await db
    .selectFrom("docket_change")
    .select("body")
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
  return rows.map(({ body }) => body);
}

/** Ids of the shares that a docket is about, whatever the outcome. */
export async function sharesOfDocket(db: Reads, docketId: string): Promise<string[]> {
  const rows = await db
    .selectFrom("docket_change")
    .select("share_id")
    .distinct()
    .where("docket_id", "=", docketId)
    .where("share_id", "is not", null)
    .execute();
  return rows.map(({ share_id }) => share_id!);
}

/** The changes for each intent; null where its subject isn't in the estate. */
export function planned(app: Asking, intents: readonly Intent[]): Promise<(PlannedChange[] | null)[]> {
  return app.engine.ask("plan", { intents: [...intents] });
}

/** Adds changes to a docket, in order. A change replaces those that it makes pointless. */
export async function addChanges(db: Tx, docketId: string, intents: readonly PlannedChange[][]): Promise<void> {
  const staged = await stagedByShare(db, docketId);
  let position = await lastPosition(db, docketId);
  for (const intent of intents) {
    await breathe();
    for (const { change } of intent) await takeOutFor(db, docketId, staged, change);
    for (const { change, words } of intent) {
      addOne(db, docketId, ++position, change, words);
      if ("shareId" in change) staged.set(change.shareId, [...(staged.get(change.shareId) ?? []), change]);
    }
  }
}

/** The share that a change is about, or that its new share replaces. */
function shareOf(change: Change): string | null {
  if ("shareId" in change) return change.shareId;
  return isMaking(change) ? (change.replaces ?? null) : null;
}

/** There may be ten thousand, so no query is built for each. */
function addOne(db: Tx, docketId: string, position: number, change: Change, words: PlannedChange["words"]) {
  const shareId = shareOf(change);
  db.prepare(
    `insert into docket_change (id, docket_id, position, subject, share_id, store_id, item_name, audience, body, state)
      values (?, ?, ?, ?, ?, ?, ?, ?, ?, 'staged')
      on conflict (docket_id, subject) do update set body = excluded.body, position = excluded.position`,
  ).run(
    ...[uuid(), docketId, position, subjectOf(change), shareId, words.storeId ?? "", words.itemName, words.audience],
    JSON.stringify(change),
  );
}

async function stagedByShare(db: Reads, docketId: string): Promise<Map<string, Change[]>> {
  const rows = await db
    .selectFrom("docket_change")
    .select(["share_id", "body"])
    .where("docket_id", "=", docketId)
    .where("share_id", "is not", null)
    .execute();
  const staged = new Map<string, Change[]>();
  for (const { share_id, body } of rows)
    staged.set(share_id!, [...(staged.get(share_id!) ?? []), changeSchema.parse(JSON.parse(body))]);
  return staged;
}

async function takeOutFor(db: Tx, docketId: string, staged: Map<string, Change[]>, change: Change) {
  if (!("shareId" in change)) return;
  const before = staged.get(change.shareId) ?? [];
  const pointless = before.filter((earlier) => takesPlaceOf(change, earlier));
  for (const earlier of pointless)
    await db
      .deleteFrom("docket_change")
      .where("docket_id", "=", docketId)
      .where("subject", "=", subjectOf(earlier))
      .execute();
  staged.set(
    change.shareId,
    before.filter((earlier) => !pointless.includes(earlier)),
  );
}

/** Of the last change of a docket; 0 where it has none. */
export async function lastPosition(db: Reads, docketId: string): Promise<number> {
  const { last } = await db
    .selectFrom("docket_change")
    .select((eb) => eb.fn.coalesce(eb.fn.max("position"), eb.lit(0)).as("last"))
    .where("docket_id", "=", docketId)
    .executeTakeFirstOrThrow();
  return Number(last);
}
