import type { Selectable } from "kysely";
import type { Witness, WitnessKind } from "@/core/evidence/witness";
import { isLoopback } from "../platform/loopback";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { type Reads, writing } from "../platform/db/open";
import type { WitnessTable } from "../platform/db/schema";
import { appendWithin } from "../records/ledger/ledger";

/** The witnesses that checkpoints go to. A folder that is no longer set in the environment isn't one, although what it took is kept. */
export function witnessRows({ settings }: Platform, db: Reads): Promise<Selectable<WitnessTable>[]> {
  return db
    .selectFrom("witness")
    .selectAll()
    .where((eb) => eb.or([eb("kind", "<>", "folder"), eb("target", "=", settings.witnesses ?? "")]))
    .orderBy("id")
    .execute();
}

export async function witnesses(app: Platform): Promise<Witness[]> {
  return (await witnessRows(app, app.db)).map(({ id, kind, target, added_at, sent_size, sent_at, error }) => ({
    ...{ id, kind, to: target, addedAt: added_at, error },
    ...{ sentSize: sent_size, sentAt: sent_at },
  }));
}

/** Registers the folder that is set in the environment as a witness. */
export async function takeFolder(app: Platform): Promise<void> {
  const { witnesses: to } = app.settings;
  if (to === undefined || (await witnessRows(app, app.db)).some(({ kind }) => kind === "folder")) return;
  await addWitness(app, { kind: "folder", to }, "settings");
}

/** @throws {Problem} if there is such a witness already, or its address isn't safe */
export async function addWitness(
  app: Platform,
  given: { kind: WitnessKind; to: string },
  actor: string,
): Promise<void> {
  if (given.kind === "stamp") checkStampAddress(given.to);
  await writing(app.db, async (tx) => {
    const { kind, to: target } = given;
    const row = { kind, target, added_at: app.clock.text() };
    const added = await tx
      .insertInto("witness")
      .values(row)
      .onConflict((conflict) => conflict.doNothing())
      .returning("id")
      .executeTakeFirst();
    if (!added) throw new Problem("conflict", "Checkpoints go there already.");
    await appendWithin(tx, actor, "witness-added", { witness: kind, to: target });
  });
}

function checkStampAddress(url: string) {
  const { protocol, hostname } = new URL(url);
  if (protocol !== "https:" && !isLoopback(hostname))
    throw new Problem("bad", "to: must begin with https: what an authority answers could be changed on the way.");
}

/** @throws {Problem} if there is none, or it is set in the environment */
export function removeWitness(app: Platform, id: number, actor: string): Promise<void> {
  return writing(app.db, async (tx) => {
    const row = await tx.selectFrom("witness").select(["kind", "target"]).where("id", "=", id).executeTakeFirst();
    if (!row) throw new Problem("unknown", "Checkpoints no longer go there.");
    if (row.kind === "folder")
      throw new Problem("bad", "The folder is set by LATCH_WITNESSES, where the application is started.");
    await tx.deleteFrom("witness").where("id", "=", id).execute();
    await appendWithin(tx, actor, "witness-removed", { witness: row.kind, to: row.target });
  });
}
