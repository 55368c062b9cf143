import { EventEmitter } from "node:events";
import pLimit from "p-limit";
import pRetry, { AbortError } from "p-retry";
import { type Change, changeSchema } from "@/core/dockets/change";
import type { ChangeState, DocketProgress, DocketState } from "@/core/dockets/progress";
import { recordKey, type ShareRecord } from "@/core/estate/records";
import { nowText } from "../clock";
import { type Db, writing } from "../db/open";
import { engine } from "../engine/client";
import { appendWithin } from "../ledger/ledger";
import { keepFacts } from "../reading/facts";
import { type Entry, type StoreAdapter, StoreRefusal, StoreTrouble } from "../stores/adapter";
import { adapterFor, connections } from "../stores/connections";

/** Changes sent to one store at the same time. */
const AT_ONCE = 4;
const TRIES = 5;

interface Running {
  paused: boolean;
  finished: Promise<void>;
}

const shared = globalThis as { latchRunning?: Map<string, Running>; latchProgress?: EventEmitter };
const running = (shared.latchRunning ??= new Map());
/** Emits `docketId` whenever something in a docket has moved. */
export const progressEvents = (shared.latchProgress ??= new EventEmitter().setMaxListeners(0));

/** Takes what is staged in a docket and begins to carry it out. @returns false where there is nothing to apply */
export async function applyDocket(db: Db, docketId: string, actor: string): Promise<boolean> {
  const began = await writing(db, async (within) => {
    const staged = await within.selectFrom("docket_change").selectAll().where("docket_id", "=", docketId).execute();
    const docket = await within
      .selectFrom("docket")
      .select("state")
      .where("id", "=", docketId)
      // A tray is applied by whoever filled it: they alone have read its preview.
      .where("made_by", "=", actor)
      .executeTakeFirst();
    if (docket?.state !== "preparing" || staged.length === 0) return false;
    await within
      .updateTable("docket")
      .set({ state: "applying", applied_at: nowText() })
      .where("id", "=", docketId)
      .execute();
    await appendWithin(within, actor, "docket-applied", {
      docket: docketId,
      changes: staged.map((one) => JSON.parse(one.body)),
    });
    return true;
  });
  if (began) run(db, docketId);
  return began;
}

export async function pauseDocket(db: Db, docketId: string, actor: string): Promise<void> {
  const one = running.get(docketId);
  if (one) one.paused = true;
  await one?.finished;
  await moveDocket(db, docketId, "applying", "paused", actor, "docket-paused");
}

export async function resumeDocket(db: Db, docketId: string, actor: string): Promise<void> {
  if (await moveDocket(db, docketId, "paused", "applying", actor, "docket-resumed")) run(db, docketId);
}

/** Tries again what failed in a docket that is done. */
export async function retryFailed(db: Db, docketId: string, actor: string): Promise<void> {
  const moved = await moveDocket(db, docketId, "done", "applying", actor, "docket-retried");
  if (!moved) return;
  await db
    .updateTable("docket_change")
    .set({ state: "staged" })
    .where("docket_id", "=", docketId)
    .where("state", "=", "failed")
    .execute();
  run(db, docketId);
}

function moveDocket(
  db: Db,
  id: string,
  from: DocketState,
  to: DocketState,
  actor: string,
  kind: string,
): Promise<boolean> {
  return writing(db, async (within) => {
    const { numUpdatedRows } = await within
      .updateTable("docket")
      .set({ state: to })
      .where("id", "=", id)
      .where("state", "=", from)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) return false;
    await appendWithin(within, actor, kind, { docket: id });
    progressEvents.emit(id);
    return true;
  });
}

/** Goes on with every docket that was being applied when the process ended. */
export async function resumeInterrupted(db: Db): Promise<void> {
  const dockets = await db.selectFrom("docket").select("id").where("state", "=", "applying").execute();
  for (const { id } of dockets) run(db, id);
}

function run(db: Db, docketId: string) {
  if (running.has(docketId)) return;
  const one: Running = { paused: false, finished: Promise.resolve() };
  running.set(docketId, one);
  one.finished = carryOut(db, docketId, one)
    .catch((error) => console.error(`docket ${docketId} stopped: ${(error as Error).stack}`))
    .finally(() => running.delete(docketId));
}

async function carryOut(db: Db, docketId: string, run: Running): Promise<void> {
  const adapters = new Map((await connections(db)).map((one) => [one.id, adapterFor(one)]));
  const open = await db
    .selectFrom("docket_change")
    .selectAll()
    .where("docket_id", "=", docketId)
    .where("state", "in", ["staged", "sending"])
    .orderBy("position")
    .execute();
  const limits = new Map<string, ReturnType<typeof pLimit>>();
  const limitOf = (store: string) => limits.get(store) ?? limits.set(store, pLimit(AT_ONCE)).get(store)!;
  await Promise.all(
    open.map((row) =>
      limitOf(row.store_id)(async () => {
        if (!run.paused) await carryOutOne(db, row, adapters.get(row.store_id));
      }),
    ),
  );
  await engine().ask("refresh", {});
  if (!run.paused) await finish(db, docketId);
}

interface Row {
  id: string;
  docket_id: string;
  body: string;
  tries: number;
  state: ChangeState;
}

/** Sends one change, keeps its receipt, and looks whether it took. A key of its own makes sending it twice harmless. */
async function carryOutOne(db: Db, row: Row, adapter: StoreAdapter | undefined): Promise<void> {
  const change = changeSchema.parse(JSON.parse(row.body));
  // What was sent before the process ended may have been done: the store knows, so it is asked again.
  const verdict = row.state === "staged" ? await engine().ask("verdict", { change }) : { can: true as const };
  if (!verdict.can) return settle(db, row, { state: "set-aside", answer: `${verdict.why} ${verdict.instead}` });
  if (!adapter)
    return settle(db, row, { state: "set-aside", answer: "This store is known from a file only; do it by hand." });
  await db
    .updateTable("docket_change")
    .set({ state: "sending", sent_at: nowText() })
    .where("id", "=", row.id)
    .execute();
  const before = "shareId" in change ? await engine().ask("record", { id: change.shareId }) : null;
  try {
    const entries = await sendWithRetries(db, row, () => adapter.apply(change, row.id));
    const probe = await probeWords(adapter, change, before);
    await settle(db, row, { state: "done", answer: "The store did it.", probe }, entries);
  } catch (error) {
    const { message } = error as Error;
    await settle(db, row, { state: error instanceof StoreRefusal ? "set-aside" : "failed", answer: message });
  }
}

function sendWithRetries(db: Db, row: Row, send: () => Promise<Entry[]>): Promise<Entry[]> {
  return pRetry(
    async () => {
      await db
        .updateTable("docket_change")
        .set((eb) => ({ tries: eb("tries", "+", 1) }))
        .where("id", "=", row.id)
        .execute();
      return send().catch((error) => {
        throw error instanceof StoreTrouble ? error : new AbortError(error);
      });
    },
    {
      retries: TRIES - 1,
      minTimeout: 200,
      maxTimeout: 5_000,
      randomize: true,
      onFailedAttempt: ({ error }) => waitAsAsked(error),
    },
  );
}

async function waitAsAsked(error: Error): Promise<void> {
  const ms = error instanceof StoreTrouble ? error.retryAfterMs : 0;
  if (ms > 0) await new Promise((resolve) => setTimeout(resolve, ms));
}

/** A look that fails is told on the receipt: the change itself was done. */
async function probeWords(adapter: StoreAdapter, change: Change, before: ShareRecord | null): Promise<string> {
  try {
    return (await adapter.probe(change, before)).words;
  } catch (error) {
    return `Could not be checked: ${(error as Error).message}`;
  }
}

interface Outcome {
  state: ChangeState;
  answer: string;
  probe?: string | null;
}

/** The receipt, the fact and the ledger's entry are kept together or not at all. */
async function settle(db: Db, row: Row, outcome: Outcome, entries: readonly Entry[] = []): Promise<void> {
  const at = nowText();
  await writing(db, async (within) => {
    await within
      .updateTable("docket_change")
      .set({ ...outcome, answered_at: at, probed_at: outcome.probe ? at : null })
      .where("id", "=", row.id)
      .execute();
    for (const entry of entries) await keepAsRead(within, entry, at);
    await appendWithin(within, "executor", `change-${outcome.state}`, {
      docket: row.docket_id,
      change: JSON.parse(row.body),
      answer: outcome.answer,
      probe: outcome.probe ?? null,
    });
  });
  progressEvents.emit(row.docket_id);
}

/** The store's answer is a reading too; the next reading finds nothing new. */
async function keepAsRead(db: Db, { record, gone }: Entry, at: string): Promise<void> {
  const known = await db
    .selectFrom("fact")
    .select(["source", "body"])
    .where("type", "=", record.type)
    .where("key", "=", recordKey(record))
    .where("to", "is", null)
    .executeTakeFirst();
  if (!known) return;
  const { address } = JSON.parse(known.body);
  const whole = record.type === "link" ? { ...record, address } : record;
  await keepFacts(db, known.source, [{ record: whole, at, since: at, gone }]);
}

async function finish(db: Db, docketId: string): Promise<void> {
  const { counts } = await docketProgress(db, docketId);
  await writing(db, async (within) => {
    await within
      .updateTable("docket")
      .set({ state: "done", finished_at: nowText() })
      .where("id", "=", docketId)
      .execute();
    await appendWithin(within, "executor", "docket-done", { docket: docketId, ...counts });
  });
  progressEvents.emit(docketId);
}

export async function docketProgress(db: Db, docketId: string): Promise<DocketProgress> {
  const docket = await db.selectFrom("docket").select("state").where("id", "=", docketId).executeTakeFirstOrThrow();
  const rows = await db
    .selectFrom("docket_change")
    .select((eb) => ["state", eb.fn.countAll<number>().as("count")])
    .where("docket_id", "=", docketId)
    .groupBy("state")
    .execute();
  const counts: Record<ChangeState, number> = { staged: 0, sending: 0, done: 0, failed: 0, "set-aside": 0 };
  for (const { state, count } of rows) counts[state] = Number(count);
  return { docketId, state: docket.state, counts };
}
