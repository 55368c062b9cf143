import { EventEmitter } from "node:events";
import pLimit from "p-limit";
import pRetry, { AbortError } from "p-retry";
import { type Change, changeSchema, type ShareChange } from "@/core/dockets/change";
import { sql } from "kysely";
import type { ChangeState, DocketState } from "@/core/dockets/progress";
import { recordKey, type ShareRecord } from "@/core/estate/records";
import { nowText } from "../clock";
import { type Db, writing } from "../db/open";
import { engine } from "../engine/client";
import { needs } from "@/core/dockets/plan";
import { appendWithin } from "../ledger/ledger";
import { keepStandingOrder } from "../orders/standingOrders";
import { keepFacts } from "../reading/facts";
import { type Entry, type StoreAdapter, StoreRefusal, StoreTrouble } from "../stores/adapter";
import { adapterFor, connections } from "../stores/connections";
import { differenceWords } from "@/core/dockets/sameShare";
import { docketProgress } from "./docketProgress";
import { dropPassphrase, passphraseFor } from "./passphrases";

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

/**
 * Takes what is staged in a docket and begins to carry it out: a tray for whoever filled it, who alone has read its
 * preview; a docket that waits for any administrator. @returns false where there is nothing to apply
 */
export async function applyDocket(db: Db, docketId: string, actor: string): Promise<boolean> {
  const began = await writing(db, async (within) => {
    const docket = await within
      .selectFrom("docket")
      .select(["state", "made_by"])
      .where("id", "=", docketId)
      .executeTakeFirst();
    const isTheirs = docket?.state === "waiting" || (docket?.state === "preparing" && docket.made_by === actor);
    if (!isTheirs || !(await noteApplied(within, docketId, actor))) return false;
    await within
      .updateTable("docket")
      .set({ state: "applying", applied_at: nowText() })
      .where("id", "=", docketId)
      .execute();
    return true;
  });
  if (began) run(db, docketId);
  return began;
}

/** Puts down in the ledger what is about to be carried out. @returns false where that is nothing */
export async function noteApplied(db: Db, docketId: string, actor: string): Promise<boolean> {
  const staged = await db.selectFrom("docket_change").select("body").where("docket_id", "=", docketId).execute();
  if (staged.length === 0) return false;
  await sql`update docket_change set seen = (select json_remove(body, '$.address') from fact
    where type in ('link', 'grant') and key = docket_change.share_id and "to" is null)
    where docket_id = ${docketId} and share_id is not null`.execute(db);
  await appendWithin(db, actor, "docket-applied", {
    docket: docketId,
    changes: staged.map((one) => JSON.parse(one.body)),
  });
  return true;
}

/** Sends away a docket that waits. @returns false where it doesn't wait */
export function dropDocket(db: Db, docketId: string, actor: string): Promise<boolean> {
  return moveDocket(db, docketId, "waiting", "dropped", actor, "docket-dropped");
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

/** Begins to carry out a docket whose state is `applying`, or goes on with it. */
export function run(db: Db, docketId: string) {
  if (running.has(docketId)) return;
  const one: Running = { paused: false, finished: Promise.resolve() };
  running.set(docketId, one);
  one.finished = carryOut(db, docketId, one)
    .catch((error) => console.error(`docket ${docketId} stopped: ${(error as Error).stack}`))
    .finally(() => running.delete(docketId));
}

/** Waits until nothing is being carried out in this process any more. */
export async function allCarriedOut(): Promise<void> {
  while (running.size > 0) await Promise.all([...running.values()].map(({ finished }) => finished));
}

async function carryOut(db: Db, docketId: string, run: Running): Promise<void> {
  const adapters = new Map((await connections(db)).map((one) => [one.id, adapterFor(one)]));
  const rows = await db
    .selectFrom("docket_change")
    .selectAll()
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
  const limits = new Map<string, ReturnType<typeof pLimit>>();
  const limitOf = (store: string) => limits.get(store) ?? limits.set(store, pLimit(AT_ONCE)).get(store)!;
  await Promise.all(
    byShare(rows).map((steps) =>
      limitOf(steps[0].store_id)(async () => {
        for (const step of steps) {
          const isOpen = step.state === "staged" || step.state === "sending";
          if (isOpen && !run.paused && (await isApplying(db, docketId)))
            await carryOutInTurn(db, step, steps, adapters.get(step.store_id));
        }
      }),
    ),
  );
  await engine().ask("refresh", {});
  if (!run.paused && (await isApplying(db, docketId))) await finish(db, docketId);
}

/** Whether nobody has halted it, from this process or another. */
async function isApplying(db: Db, docketId: string): Promise<boolean> {
  const docket = await db.selectFrom("docket").select("state").where("id", "=", docketId).executeTakeFirst();
  return docket?.state === "applying";
}

interface Row {
  id: string;
  docket_id: string;
  share_id: string | null;
  body: string;
  tries: number;
  state: ChangeState;
  seen: string | null;
}

/** Steps on one share are done one after the other, in their order. */
function byShare<R extends Row>(rows: readonly R[]): R[][] {
  const groups = new Map<string, R[]>();
  for (const row of rows) {
    const key = row.share_id ?? row.id;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()];
}

const changeOf = (row: Row) => changeSchema.parse(JSON.parse(row.body));

/** Does a step once those that it needs are done; where one of them isn't, it fails and says so. */
async function carryOutInTurn(db: Db, row: Row, steps: readonly Row[], adapter: StoreAdapter | undefined) {
  const before = steps.filter((one) => one !== row && needs(changeOf(row), changeOf(one)));
  const states = await Promise.all(before.map(({ id }) => stateOf(db, id)));
  const open = states.filter((state) => state !== "done");
  // Where somebody does the first themselves, what follows it is theirs too.
  if (open.length > 0 && open.every((state) => state === "by-hand")) return settle(db, row, BY_HAND);
  if (open.length > 0) return settle(db, row, { state: "failed", answer: "What has to come before it was not done." });
  // The store's answer changed what the engine knows of the share, and this step is judged by that.
  if (before.length > 0) await engine().ask("refresh", {});
  // After a step of ours on the same share it is no longer as it was, and that is known.
  const earlier = await Promise.all(steps.slice(0, steps.indexOf(row)).map(({ id }) => stateOf(db, id)));
  await carryOutOne(db, row, adapter, earlier.includes("done") ? null : row.seen);
}

async function stateOf(db: Db, id: string): Promise<ChangeState> {
  const row = await db.selectFrom("docket_change").select("state").where("id", "=", id).executeTakeFirstOrThrow();
  return row.state;
}

/**
 * Sends one change, keeps its receipt, and looks whether it took. A key of its own makes sending it twice harmless.
 * @param seen the record of its share as it was decided about; null where that needs no look
 */
async function carryOutOne(db: Db, row: Row, adapter: StoreAdapter | undefined, seen: string | null): Promise<void> {
  const change = changeOf(row);
  // What was sent before the process ended may have been done: the store knows, so it is asked again.
  const verdict = row.state === "staged" ? await engine().ask("verdict", { change }) : { can: true as const };
  if (!verdict.can) return settle(db, row, { state: "set-aside", answer: `${verdict.why} ${verdict.instead}` });
  if (change.action === "order-revoke") return keepOrder(db, row, change);
  if (!adapter) return settle(db, row, BY_HAND);
  await db
    .updateTable("docket_change")
    .set({ state: "sending", sent_at: nowText() })
    .where("id", "=", row.id)
    .execute();
  const before = "shareId" in change ? await engine().ask("record", { id: change.shareId }) : null;
  const passphrase = change.action === "set-password" ? await passphraseFor(db, row) : undefined;
  try {
    // Once it may have been sent, a share that is otherwise may be so by this very change.
    let isChecked = row.tries > 0 || seen === null || !("shareId" in change);
    const entries = await sendWithRetries(db, row, async () => {
      if (!isChecked) checkSame(JSON.parse(seen!), await adapter.share((change as ShareChange).shareId));
      isChecked = true;
      return adapter.apply(change, row.id, passphrase);
    });
    const probe = await probeWords(adapter, change, before);
    await settle(db, row, { state: "done", answer: "The store did it.", probe }, entries);
  } catch (error) {
    const { message } = error as Error;
    const isRefused = error instanceof StoreRefusal;
    if (isRefused && passphrase !== undefined) await dropPassphrase(db, row.id);
    await settle(db, row, { state: isRefused ? "set-aside" : "failed", answer: message });
  }
}

/** @throws {StoreRefusal} where a share is not as it was when the change was decided about */
function checkSame(seen: ShareRecord, now: ShareRecord) {
  const difference = differenceWords(seen, now);
  if (difference !== null)
    throw new StoreRefusal(`It is not as it was when this was decided: ${difference}. Look at it again.`);
}

/** Nothing is sent: from now on it is for us to end the share on the day. */
async function keepOrder(db: Db, row: Row, { shareId, on }: Extract<Change, { action: "order-revoke" }>) {
  await keepStandingOrder(db, { shareId, on, docketId: row.docket_id });
  await settle(db, row, {
    state: "done",
    answer: "A standing order has it.",
    probe: `Tight Latch revokes it on ${on}.`,
  });
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

const BY_HAND: Outcome = { state: "by-hand", answer: "This store is known from a file only; do it by hand." };

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
  // What is new will be read with all that belongs to it.
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
