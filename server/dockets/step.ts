import pRetry from "p-retry";
import { type Change, changeSchema, isMaking, type MakingChange, type ShareChange } from "@/core/changes/change";
import { needs } from "@/core/changes/plan";
import type { ChangeState } from "@/core/changes/states";
import { differenceWords } from "@/core/changes/sameShare";
import type { EstateRecord, LinkRecord, ShareRecord } from "@/core/estate/records";
import type { Db, Tx } from "../platform/db/open";
import type { WritingTogether } from "../platform/db/together";
import type { Asking } from "../engine/client";
import type { Outlook } from "../engine/questions";
import { appendWithin } from "../records/ledger/ledger";
import { dropStandingOrder, keepOrderWithin, keepStandingOrder } from "./standingOrders";
import { factNow, keepFacts, type Seen } from "../records/facts";
import { namedHere } from "../records/names";
import type { Carrying } from "./carrying";
import type { StepStore } from "./pace";
import { type Entry, StoreRefusal, StoreTrouble } from "../stores/adapter";
import { dropPassphrase, passphraseFor } from "./passphrases";

/** What a store breaks over is tried so often; what it puts off, or doesn't answer, for so long. */
const TRIES = 5;
const GIVE_UP_AFTER_MS = 15 * 60_000;

/** A change of a docket as it is kept. */
export interface Step {
  id: string;
  docket_id: string;
  share_id: string | null;
  store_id: string;
  body: string;
  tries: number;
  state: ChangeState;
  seen: string | null;
  checked: number | null;
}

/** With what a step is carried out. @param store undefined where it is known from a file only */
interface Means {
  app: Carrying;
  store: StepStore | undefined;
  /** Writes what many steps come to at the same time. */
  together: WritingTogether;
  /** What was known of a step that waits for no other, asked for many of them at once. */
  outlookOf: (step: Step) => Promise<Outlook>;
  /** Aborted where the docket is to halt. */
  signal: AbortSignal;
}

/** All steps of a docket, in their order. */
export function stepsOf(db: Db, docketId: string): Promise<Step[]> {
  return db
    .selectFrom("docket_change")
    .select(["id", "docket_id", "share_id", "store_id", "body", "tries", "state", "seen", "checked"])
    .where("docket_id", "=", docketId)
    .orderBy("position")
    .execute();
}

const AT_ONCE = 100;

/** Asks what is to be known of steps for a hundred of them at once, when the first of those comes up. */
export function outlooksOf(app: Asking, steps: readonly Step[]): Means["outlookOf"] {
  const places = new Map(steps.map((step, place) => [step.id, place]));
  const asked = new Map<number, Promise<Outlook[]>>();
  return async ({ id }) => {
    const place = places.get(id)!;
    const part = Math.floor(place / AT_ONCE);
    let outlooks = asked.get(part);
    if (!outlooks) {
      const changes = steps.slice(part * AT_ONCE, (part + 1) * AT_ONCE).map(changeOf);
      asked.set(part, (outlooks = app.engine.ask("outlook", { changes })));
    }
    return (await outlooks)[place % AT_ONCE];
  };
}

export function isOpen({ state }: Step): boolean {
  return state === "staged" || state === "sending";
}

/** Whether it was done, and a look did not show it. */
export function isUnchecked({ state, checked }: Step): boolean {
  return state === "done" && checked === 0;
}

/** Steps on one share are done one after the other, in their order. */
export function byShare(steps: readonly Step[]): Step[][] {
  const groups = new Map<string, Step[]>();
  for (const step of steps) {
    const key = step.share_id ?? step.id;
    const group = groups.get(key);
    if (group) group.push(step);
    else groups.set(key, [step]);
  }
  return [...groups.values()];
}

const changeOf = (step: Step) => changeSchema.parse(JSON.parse(step.body));

/** Does a step once those that it needs are done; where one of them isn't, it fails and says so. */
export async function carryOutInTurn(means: Means, step: Step, steps: readonly Step[]) {
  if (steps.length === 1) return carryOut(means, step, step.seen, await means.outlookOf(step));
  const { app } = means;
  const before = steps.filter((one) => one !== step && needs(changeOf(step), changeOf(one)));
  const states = await Promise.all(before.map(({ id }) => stateOf(app.db, id)));
  const open = states.filter(({ state }) => state !== "done");
  // Where somebody does the first themselves, what follows it is theirs too.
  if (open.length > 0 && open.every(({ state }) => state === "by-hand")) return settle(means, step, BY_HAND);
  if (open.length > 0) return settle(means, step, { state: "failed", answer: "A change it depends on wasn’t done." });
  const isUnseen = before.some((one, i) => isMaking(changeOf(one)) && states[i].checked !== 1);
  if (isUnseen)
    return settle(means, step, {
      state: "failed",
      answer: "The share in its place was made, but doesn’t open as it should. This one is left as it was.",
    });
  // The stores' answers changed what the engine knows of the share, and this step is judged by that.
  if (steps.indexOf(step) > 0) await app.engine.ask("refresh", {});
  // After a step of ours on the same share it is no longer as it was, and that is known.
  const earlier = (await Promise.all(steps.slice(0, steps.indexOf(step)).map(({ id }) => stateOf(app.db, id)))).map(
    ({ state }) => state,
  );
  const [outlook] = await app.engine.ask("outlook", { changes: [changeOf(step)] });
  await carryOut(means, step, earlier.includes("done") ? null : step.seen, outlook);
}

function stateOf(db: Db, id: string): Promise<Pick<Step, "state" | "checked">> {
  return db.selectFrom("docket_change").select(["state", "checked"]).where("id", "=", id).executeTakeFirstOrThrow();
}

/**
 * Sends one change, keeps its receipt, and looks whether it took. A key of its own makes sending it twice harmless.
 * @param seen the record of its share as it was decided about; null where that needs no look
 */
async function carryOut(means: Means, step: Step, seen: string | null, outlook: Outlook): Promise<void> {
  const { app, store, signal } = means;
  const change = changeOf(step);
  const { verdict, record: before } = outlook;
  // What was sent before may have been done though no answer came: the store knows, so it is asked again.
  if (step.tries === 0 && !verdict.can)
    return settle(means, step, { state: "set-aside", answer: `${verdict.why} ${verdict.instead}` });
  if (change.action === "order-revoke" || change.action === "drop-order") return orderInStep(means, step, change);
  if (!store) return settle(means, step, BY_HAND);
  const passphrase = setsPassword(change, before) ? await passphraseFor(app, step) : undefined;
  try {
    // Once it may have been sent, a share that is otherwise may be so by this very change.
    let isChecked = step.tries > 0 || seen === null || !("shareId" in change);
    const entries = await withRetries(signal, async () => {
      if (!isChecked) checkSame(JSON.parse(seen!), await store.share((change as ShareChange).shareId));
      isChecked = true;
      return store.apply(change, step.id, passphrase, () => noteSending(means, step));
    });
    const probe = await probeOf(means, change, before, shareAmong(entries));
    await settle(means, step, { state: "done", answer: "Done by the store.", ...probe }, entries);
  } catch (error) {
    const isRefused = error instanceof StoreRefusal;
    // It goes on where it stood, when the docket does.
    if (signal.aborted && !isRefused) return;
    if (isOurs(error)) throw error;
    if (isRefused && passphrase !== undefined) await dropPassphrase(app.db, step.id);
    await settle(means, step, { state: isRefused ? "set-aside" : "failed", answer: (error as Error).message });
  }
}

/** Whether our own database failed, and not the store: then nothing can be written down either. */
function isOurs(error: unknown): boolean {
  return typeof error === "object" && error !== null && "code" in error && String(error.code).startsWith("SQLITE");
}

/** Whether a change gives a link a password that nobody has yet. */
function setsPassword(change: Change, before: ShareRecord | null): boolean {
  switch (change.action) {
    case "put-back":
      return change.was.password === true;
    case "new-link":
      return change.password;
    case "remake-link":
    case "move-intake":
      return before?.type === "link" && before.password;
    default:
      return change.action === "set-password";
  }
}

/** @throws {StoreRefusal} where a share is not as it was when the change was decided about */
function checkSame(seen: ShareRecord, now: ShareRecord) {
  const difference = differenceWords(seen, now);
  if (difference !== null)
    throw new StoreRefusal(`The share has changed since this was decided: ${difference}. Review it again.`);
}

/** Nothing is sent: to end the share on the day is for us, or is so no longer. */
async function orderInStep(
  means: Means,
  step: Step,
  change: Extract<Change, { action: "order-revoke" | "drop-order" }>,
) {
  const { db } = means.app;
  const { shareId, on } = change;
  if (change.action === "order-revoke") await keepStandingOrder(db, { shareId, on, docketId: step.docket_id });
  else await dropStandingOrder(db, shareId);
  const [answer, probe] =
    change.action === "order-revoke"
      ? ["Set as a standing order.", `Tight Latch will revoke it on ${on}.`]
      : ["The standing order is cancelled.", "Tight Latch will no longer revoke it."];
  await settle(means, step, { state: "done", answer, probe, checked: 1 });
}

/** Written down before it is sent, so that nothing is ever sent that nobody knows of. */
function noteSending({ together }: Means, { id }: Step): Promise<void> {
  return together.write(async (within) => {
    await within
      .updateTable("docket_change")
      .set((eb) => ({ state: "sending", sent_at: within.clock.text(), tries: eb("tries", "+", 1) }))
      .where("id", "=", id)
      .execute();
  });
}

/** Tries again what may pass. Between the tries the store's own pace is kept to as well. */
async function withRetries<T>(signal: AbortSignal, ask: () => Promise<T>): Promise<T> {
  const attempt = async () => {
    try {
      return { value: await ask() };
    } catch (error) {
      if (error instanceof StoreTrouble) throw error;
      return { error };
    }
  };
  const outcome = await pRetry(attempt, {
    retries: TRIES - 1,
    minTimeout: 200,
    maxTimeout: 5_000,
    randomize: true,
    maxRetryTime: GIVE_UP_AFTER_MS,
    // What is on its way is waited for; a halt only keeps from trying again.
    shouldRetry: () => !signal.aborted,
    shouldConsumeRetry: ({ error }) => error instanceof StoreTrouble && error.kind === "broken",
  });
  if ("error" in outcome) throw outcome.error;
  return outcome.value;
}

/** A look that fails is told on the receipt: the change itself was done. */
async function probeOf(
  { store, signal }: Means,
  change: Change,
  before: ShareRecord | null,
  made?: ShareRecord,
): Promise<Probed> {
  try {
    const { dead, words } = await withRetries(signal, () => store!.probe(change, before, made));
    return { probe: words, checked: dead ? 1 : 0 };
  } catch (error) {
    return { probe: `Could not be checked: ${(error as Error).message}`, checked: 0 };
  }
}

function shareAmong(entries: readonly Entry[]): ShareRecord | undefined {
  const isShare = (record: EstateRecord) => record.type === "link" || record.type === "grant";
  return entries.map(({ record }) => record).find(isShare) as ShareRecord | undefined;
}

/** Looks once more whether a change took that was done. */
export async function probeAgain(means: Means, step: Step): Promise<void> {
  if (!means.store) return;
  const change = changeOf(step);
  const before = "shareId" in change ? await means.app.engine.ask("record", { id: change.shareId }) : null;
  const probed = await probeOf(
    means,
    change,
    before,
    isMaking(change) ? await madeBy(means.app.db, step.id) : undefined,
  );
  await means.app.db
    .updateTable("docket_change")
    .set({ ...probed, probed_at: means.app.clock.text() })
    .where("id", "=", step.id)
    .execute();
  means.app.carrying.events.emit(step.docket_id);
}

const BY_HAND: Outcome = { state: "by-hand", answer: "This store is known only from a file: change it by hand." };

/** What a look afterwards found, in words, and whether that is what the change was to come to. */
interface Probed {
  probe: string;
  checked: 0 | 1;
}

interface Outcome extends Partial<Probed> {
  state: Exclude<ChangeState, "staged" | "sending">;
  answer: string;
}

/** The receipt, the fact and the ledger's entry are kept together or not at all. */
async function settle(
  { app, together, store }: Pick<Means, "app" | "together" | "store">,
  step: Step,
  outcome: Outcome,
  entries: readonly Entry[] = [],
): Promise<void> {
  const at = app.clock.text();
  await together.write(async (within) => {
    const named = await namedHere(
      within,
      store?.source ?? "",
      entries.map(({ record }) => record),
    );
    const answered = named.length === 0 ? null : JSON.stringify(named.map(withoutAddress));
    await within
      .updateTable("docket_change")
      .set({ ...outcome, answered, answered_at: at, probed_at: outcome.probe ? at : null })
      .where("id", "=", step.id)
      .execute();
    for (const [i, { gone }] of entries.entries())
      await keepAsRead(within, store!.source, { record: named[i], at, since: at, gone });
    const change = changeOf(step);
    if (isMaking(change) && outcome.state === "done") await noteMade(app, within, step, change, named);
    await appendWithin(within, "executor", `change-${outcome.state}`, {
      docket: step.docket_id,
      change: JSON.parse(step.body),
      answer: outcome.answer,
      probe: outcome.probe ?? null,
    });
  });
  app.carrying.events.emit(step.docket_id);
}

/** What follows from a share that was made: an end that its store can't keep, and whatever rooms above do with it. */
async function noteMade(
  app: Carrying,
  within: Tx,
  { id, docket_id: docketId }: Step,
  change: MakingChange,
  named: readonly EstateRecord[],
) {
  const made = named.find((record) => record.type === "link" || record.type === "grant") as ShareRecord;
  const { item_name, made_by } = await within
    .selectFrom("docket_change")
    .innerJoin("docket", "docket.id", "docket_change.docket_id")
    .select(["item_name", "made_by"])
    .where("docket_change.id", "=", id)
    .executeTakeFirstOrThrow();
  if (change.endsByOrder)
    await keepOrderWithin(within, { shareId: made.id, on: change.expiresAt!, itemName: item_name, madeBy: made_by });
  // What takes the place of another stays with it, so that whenever the docket goes on, the one waits for the other.
  if (change.replaces === undefined)
    await within.updateTable("docket_change").set({ share_id: made.id }).where("id", "=", id).execute();
  await within.updateTable("passphrase").set({ share_id: made.id }).where("change_id", "=", id).execute();
  await app.onMade(within, { docketId, change, made });
}

/** The share that a change made, as its receipt tells. */
async function madeBy(db: Db, changeId: string): Promise<ShareRecord | undefined> {
  const row = await db
    .selectFrom("docket_change")
    .select("answered")
    .where("id", "=", changeId)
    .executeTakeFirstOrThrow();
  const records: EstateRecord[] = row.answered === null ? [] : JSON.parse(row.answered);
  return records.find((record) => record.type === "link" || record.type === "grant") as ShareRecord | undefined;
}

/** An address opens its link: it stands where the link is known, and nowhere else. */
function withoutAddress(record: EstateRecord): EstateRecord {
  return record.type === "link" ? { ...record, address: undefined } : record;
}

/** The store's answer is a reading too; the next reading finds nothing new. A link's address goes on as it is known. */
async function keepAsRead(db: Tx, source: string, seen: Seen): Promise<void> {
  const { record } = seen;
  const known = record.type === "link" ? await factNow<LinkRecord>(db, "link", record.id) : null;
  const address = known?.address ?? (record.type === "link" ? record.address : undefined);
  await keepFacts(db, source, [address == null ? seen : { ...seen, record: { ...record, address } as LinkRecord }]);
}
