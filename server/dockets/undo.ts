import { changeSchema } from "@/core/changes/change";
import { inOrderOfUndoing, type Undo, undoOf } from "@/core/changes/undo";
import type { EstateRecord, ItemRecord, PersonRecord, ShareRecord } from "@/core/estate/records";
import { countWords, dayWords } from "@/core/text/words";
import { seconds } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { factNow } from "../records/facts";
import { planned } from "./changes";
import { openDocket } from "./lifecycle";
import type { Asking } from "../engine/client";

/** What could not be undone, and why. */
export interface NotUndone {
  subject: string;
  itemName: string;
  why: string;
}

interface Prepared {
  /** The docket that undoes the rest; it waits for whoever asked. */
  docketId: string;
  not: NotUndone[];
}

/**
 * Puts together a docket that undoes what another one did, all of it or some, in the order in which that has to
 * be done. It waits, so that it is looked at before it is applied.
 * @param subjects of the changes that are to be undone; null for all that were done
 * @throws {Problem} where nothing can be undone
 */
export async function prepareUndo(
  app: Asking,
  docketId: string,
  subjects: readonly string[] | null,
  actor: string,
): Promise<Prepared> {
  const rows = (await undoable(app.db, docketId)).filter((row) => subjects === null || subjects.includes(row.subject));
  const undone = await Promise.all(rows.map((row) => undoOfRow(app, row)));
  const plans = await planned(app, inOrderOfUndoing(undone));
  const not = rows.flatMap((row, i) => {
    const undo = undone[i];
    return "why" in undo ? [{ subject: row.subject, itemName: row.item_name, why: undo.why }] : [];
  });
  const known = plans.filter((plan) => plan !== null);
  if (known.length === 0) throw new Problem("conflict", not[0]?.why ?? "There is nothing in this docket left to undo.");
  const id = await writing(app.db, async (within) => {
    const words = `Undo of ${countWords(rows.length - not.length, "change")} of ${await appliedWords(within, docketId)}`;
    const id = await openDocket(within, { madeBy: actor, origin: "undo", words, plans: known });
    for (const [i, row] of rows.entries()) if ("changes" in undone[i]) await claim(within, row, id);
    await appendWithin(within, actor, "docket-undo-prepared", { docket: docketId, by: id, changes: known.length, not });
    return id;
  });
  return { docketId: id, not };
}

/** Notes that a docket takes a change back. @throws {Problem} where another one has come to do so meanwhile */
async function claim(db: Tx, { id, undone_in }: Row, docketId: string): Promise<void> {
  const { numUpdatedRows } = await db
    .updateTable("docket_change")
    .set({ undone_in: docketId })
    .where("id", "=", id)
    .where((eb) => (undone_in === null ? eb("undone_in", "is", null) : eb("undone_in", "=", undone_in)))
    .executeTakeFirst();
  if (numUpdatedRows === 0n) throw new Problem("conflict", "Somebody is already undoing this. Reload the docket.");
}

async function appliedWords(db: Reads, docketId: string): Promise<string> {
  const docket = await db.selectFrom("docket").select("applied_at").where("id", "=", docketId).executeTakeFirst();
  return docket?.applied_at ? dayWords(seconds(docket.applied_at)) : "a docket";
}

/** What was done and is not being undone; a docket that was sent away undoes nothing. */
function undoable(db: Db, docketId: string) {
  return db
    .selectFrom("docket_change")
    .leftJoin("docket as undo", "undo.id", "docket_change.undone_in")
    .selectAll("docket_change")
    .where("docket_id", "=", docketId)
    .where("docket_change.state", "=", "done")
    .where((eb) => eb.or([eb("undone_in", "is", null), eb("undo.state", "=", "dropped")]))
    .orderBy("position")
    .execute();
}

type Row = Awaited<ReturnType<typeof undoable>>[number];

async function undoOfRow(app: Asking, { body, share_id, seen, answered }: Row): Promise<Undo> {
  const change = changeSchema.parse(JSON.parse(body));
  const before = seen === null ? null : (JSON.parse(seen) as ShareRecord | ItemRecord);
  return undoOf({
    change,
    before: before?.type === "item" ? null : before,
    answered: answered === null ? [] : (JSON.parse(answered) as EstateRecord[]),
    now: share_id === null ? null : await app.engine.ask("record", { id: share_id }),
    ownerBefore: before?.type === "item" ? await addressOf(app.db, before.ownerId) : null,
  });
}

async function addressOf(db: Db, personId: string | null): Promise<string | null> {
  return personId === null ? null : ((await factNow<PersonRecord>(db, "person", personId))?.email ?? null);
}
