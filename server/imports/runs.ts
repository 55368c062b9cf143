import { shownName } from "@/core/text/shown";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { lastFactOf } from "../records/marks";
import { appendWithin } from "../records/ledger/ledger";
import type { Reading } from "../stores/listeners";
import { countWithin } from "../stores/readingDays";
import type { Checked } from "./check";
import { saveMapping } from "./mappings";
import type { Taken } from "./take";

/** An import, as its history tells it. */
export interface Run {
  id: number;
  source: string;
  file: string;
  mapping: string;
  by: string;
  at: number;
  state: "going" | "done" | "stopped";
  rows: number;
  skipped: number;
  changed: number;
  ended: number;
}

const MOST_TOLD = 200;

/** The newest first. */
export async function runs(db: Reads): Promise<Run[]> {
  const all = await db
    .selectFrom("import_run")
    .select(["id", "source", "file", "mapping", "by", "at", "state", "rows", "skipped", "changed", "ended"])
    .orderBy("id", "desc")
    .limit(MOST_TOLD)
    .execute();
  return all.map((run) => ({ ...run, file: shownName(run.file) }));
}

/** Notes that an import begins, and keeps its mapping. @returns its number */
export function beginRun(
  db: Db,
  { outlook, given, fileDigest, lastFact }: Told,
  mapping: string,
  by: string,
): Promise<number> {
  return writing(db, async (tx) => {
    await saveMapping(tx, { name: mapping, ...given }, by);
    const row = {
      ...{ source: given.source, file: given.file, mapping, by, at: tx.clock.seconds(), state: "going" as const },
      ...{ digest: fileDigest, last_fact: lastFact, rows: outlook.rows, skipped: outlook.refused },
    };
    const { id } = await tx.insertInto("import_run").values(row).returning("id").executeTakeFirstOrThrow();
    return id;
  });
}
export type Told = Pick<Checked, "outlook" | "given" | "fileDigest" | "lastFact">;

/** Notes how an import came out. @returns how many changes are seen to have been done by hand */
export function endRun(app: Reading, id: number, taken: Taken): Promise<number> {
  return writing(app.db, async (tx) => {
    const { changed, ended, isStopped, lastFact } = taken;
    const state = isStopped ? ("stopped" as const) : ("done" as const);
    const before = await lastDone(tx, id);
    await tx
      .updateTable("import_run")
      .set({ state, changed, ended, last_fact: lastFact })
      .where("id", "=", id)
      .execute();
    const run = await tx.selectFrom("import_run").selectAll().where("id", "=", id).executeTakeFirstOrThrow();
    await countWithin(tx, { source: run.source, before, changed });
    const ticked = await app.listeners.imported(tx, `The import of ${run.file}`);
    await appendWithin(tx, run.by, "report-imported", {
      ...{ name: run.source, file: run.file, mapping: run.mapping, rows: run.rows, skipped: run.skipped },
      ...{ changed, ended, ticked, stopped: isStopped },
    });
    return ticked;
  });
}

/** When a report of the same store was imported whole before; null where none was. */
async function lastDone(tx: Tx, id: number): Promise<number | null> {
  const row = await tx
    .selectFrom("import_run as now")
    .innerJoin("import_run as before", "before.source", "now.source")
    .select("before.at")
    .where("now.id", "=", id)
    .where("before.state", "=", "done")
    .orderBy("before.id", "desc")
    .limit(1)
    .executeTakeFirst();
  return row?.at ?? null;
}

/** Imports that ended with the process that did them were stopped: what they had written stays. */
export async function settleRuns(app: Reading): Promise<void> {
  const going = await app.db.selectFrom("import_run").select("id").where("state", "=", "going").execute();
  for (const { id } of going) await stopRun(app, id);
}

/** Notes that an import came to no end of its own: what it had written stays. */
export async function stopRun(app: Reading, id: number): Promise<void> {
  const run = app.db.selectFrom("import_run").select(["source", "last_fact"]).where("id", "=", id);
  const { source, last_fact } = await run.executeTakeFirstOrThrow();
  const written = app.db
    .prepare("select count(*) as changed from fact where source = ? and id > ?")
    .get(source, last_fact) as { changed: number };
  await endRun(app, id, { ...written, ended: 0, isStopped: true, lastFact: lastFactOf(app.db, source) });
}

/** Runs an import; if it fails, it is recorded as stopped. */
export async function duringRun<T>(app: Reading, id: number, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    await stopRun(app, id);
    throw error;
  }
}
