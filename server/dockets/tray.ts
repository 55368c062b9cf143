import { MOST_NAME } from "@/contract/dockets";
import type { TrayView } from "@/core/preview/docketView";
import type { LeftOut } from "@/core/changes/holds";
import type { PlannedChange } from "@/core/changes/plan";
import { type Intent, intentWords } from "@/core/changes/intent";
import { eachBreathing } from "../platform/breathe";
import { type Db, type Reads, writing } from "../platform/db/open";
import { approvalSetting } from "./approval";
import { addChanges, planned } from "./changes";
import { docketProgress } from "./docketProgress";
import { digestOf, openDocket } from "./lifecycle";
import { stagedChange } from "./receipts";
import type { Asking } from "../engine/client";

/** What a person has staged, what it would do, and whether a docket is being carried out. */
export async function trayOf(app: Asking, person: string): Promise<TrayView> {
  const docket = await trayDocket(app.db, person);
  const rows = docket ? await stagedIn(app.db, docket.id) : [];
  const changes = await eachBreathing(rows, stagedChange);
  const running = await app.db
    .selectFrom("docket")
    .select("id")
    .where("state", "in", ["applying", "paused"])
    .executeTakeFirst();
  return {
    docketId: docket?.id ?? null,
    changes,
    preview: changes.length > 0 ? await app.engine.ask("preview", { changes: changes.map((one) => one.change) }) : null,
    digest: rows.length > 0 ? digestOf(rows.map(({ body }) => body)) : null,
    name: docket?.name ?? null,
    needsReason: (await approvalSetting(app.db)).reason === true,
    running: running ? await docketProgress(app.db, running.id) : null,
  };
}

function stagedIn(db: Db, docketId: string) {
  return db
    .selectFrom("docket_change")
    .select(["subject", "item_name", "audience", "body"])
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
}

function trayDocket(db: Reads, person: string) {
  return db
    .selectFrom("docket")
    .select(["id", "name"])
    .where("made_by", "=", person)
    .where("state", "=", "preparing")
    .executeTakeFirst();
}

/**
 * Stages what is wished, beginning a docket where there is none: with what has to come before it, and another way
 * where its store can't do it as it was asked. On one side of a share there is one change: a later one takes the
 * place of the earlier.
 * @param name what the docket is called, unless it has a name already
 * @returns the subjects that aren't in the estate, and how many intents hold already: these are left out
 */
export async function stage(
  app: Asking,
  person: string,
  intents: readonly Intent[],
  name: string | null = null,
): Promise<Staged> {
  const plans = await planned(app, intents);
  const known = plans.filter((plan) => plan !== null);
  await writing(app.db, async (within) => {
    const tray = await trayDocket(within, person);
    if (known.flat().length === 0) return;
    if (tray) await addChanges(within, tray.id, known);
    const id = tray?.id ?? (await openDocket(within, { madeBy: person, origin: "tray", words: null, plans: known }));
    if (!tray?.name && name) await within.updateTable("docket").set({ name }).where("id", "=", id).execute();
  });
  return { unknown: intents.filter((_, i) => plans[i] === null).map(intentWords), left: leftOut(intents, plans) };
}

/** What a docket is called after the query that found the first of what is in it, until somebody calls it otherwise. */
export function nameAfter(query = ""): string | null {
  if (query.trim() === "") return null;
  const words = `Found by ${query.trim().replaceAll(/\s+/g, " ")}`;
  return words.length > MOST_NAME ? `${words.slice(0, MOST_NAME - 1)}…` : words;
}

interface Staged {
  unknown: string[];
  left: LeftOut;
}

function leftOut(intents: readonly Intent[], plans: readonly (PlannedChange[] | null)[]): LeftOut {
  const left: LeftOut = {};
  for (const [i, { action }] of intents.entries()) if (plans[i]?.length === 0) left[action] = (left[action] ?? 0) + 1;
  return left;
}

/** Takes changes out of the tray; with none named, all of them. */
export async function unstage(db: Db, person: string, subjects: readonly string[] | null): Promise<void> {
  const docket = await trayDocket(db, person);
  if (!docket) return;
  await writing(db, async (within) => {
    if (subjects === null) {
      await within.deleteFrom("docket_change").where("docket_id", "=", docket.id).execute();
      // What comes into it next was found by something else.
      await within.updateTable("docket").set({ name: null }).where("id", "=", docket.id).execute();
    }
    for (const subject of subjects ?? [])
      await within
        .deleteFrom("docket_change")
        .where("docket_id", "=", docket.id)
        .where("subject", "=", subject)
        .execute();
  });
}
