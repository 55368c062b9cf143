import { v7 as uuid } from "uuid";
import { type Change, subjectOf } from "@/core/dockets/change";
import type { StagedChange, TrayView } from "@/core/dockets/progress";
import { nowText } from "../clock";
import { type Db, writing } from "../db/open";
import { engine } from "../engine/client";
import { docketProgress } from "./executor";
import { stagedChange } from "./receipts";

/** What a person has staged, what it would do, and whether a docket is being carried out. */
export async function trayOf(db: Db, person: string): Promise<TrayView> {
  const docket = await trayDocket(db, person);
  const changes = docket ? await stagedIn(db, docket.id) : [];
  const running = await db
    .selectFrom("docket")
    .select("id")
    .where("state", "in", ["applying", "paused"])
    .executeTakeFirst();
  return {
    docketId: docket?.id ?? null,
    changes,
    preview: changes.length > 0 ? await engine().ask("preview", { changes: changes.map((one) => one.change) }) : null,
    running: running ? await docketProgress(db, running.id) : null,
  };
}

async function stagedIn(db: Db, docketId: string): Promise<StagedChange[]> {
  const rows = await db
    .selectFrom("docket_change")
    .select(["subject", "item_name", "audience", "body"])
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
  return rows.map(stagedChange);
}

function trayDocket(db: Db, person: string) {
  return db
    .selectFrom("docket")
    .select("id")
    .where("made_by", "=", person)
    .where("state", "=", "preparing")
    .executeTakeFirst();
}

/**
 * Stages changes, beginning a docket where there is none. About one subject there is one change: a later
 * one takes the place of the earlier.
 * @returns the subjects that aren't in the estate; changes about them are left out
 */
export async function stage(db: Db, person: string, changes: readonly Change[]): Promise<string[]> {
  const subjects = await engine().ask("subjects", { changes: [...changes] });
  await writing(db, async (within) => {
    const docketId = (await trayDocket(within, person))?.id ?? (await beginDocket(within, person));
    const { last } = await within
      .selectFrom("docket_change")
      .select((eb) => eb.fn.coalesce(eb.fn.max("position"), eb.lit(0)).as("last"))
      .where("docket_id", "=", docketId)
      .executeTakeFirstOrThrow();
    let position = Number(last);
    for (const [i, change] of changes.entries()) {
      const words = subjects[i];
      if (!words) continue;
      const body = JSON.stringify(change);
      await within
        .insertInto("docket_change")
        .values({
          id: uuid(),
          docket_id: docketId,
          position: ++position,
          subject: subjectOf(change),
          store_id: words.storeId ?? "",
          item_name: words.itemName,
          audience: words.audience,
          body,
          state: "staged",
        })
        .onConflict((conflict) => conflict.columns(["docket_id", "subject"]).doUpdateSet({ body }))
        .execute();
    }
  });
  return changes.filter((_, i) => subjects[i] === null).map(subjectOf);
}

async function beginDocket(db: Db, person: string): Promise<string> {
  const id = uuid();
  await db.insertInto("docket").values({ id, state: "preparing", made_by: person, made_at: nowText() }).execute();
  return id;
}

/** Takes changes out of the tray; with none named, all of them. */
export async function unstage(db: Db, person: string, subjects: readonly string[] | null): Promise<void> {
  const docket = await trayDocket(db, person);
  if (!docket) return;
  await writing(db, async (within) => {
    if (subjects === null) await within.deleteFrom("docket_change").where("docket_id", "=", docket.id).execute();
    for (const subject of subjects ?? [])
      await within
        .deleteFrom("docket_change")
        .where("docket_id", "=", docket.id)
        .where("subject", "=", subject)
        .execute();
  });
}
