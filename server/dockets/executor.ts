import pLimit, { type LimitFunction } from "p-limit";
import { setTimeout as wait } from "node:timers/promises";
import { isLoosening, isReopening } from "@/core/changes/change";
import { countWords, listWords } from "@/core/text/words";
import { type Db, type Tx, writing } from "../platform/db/open";
import { WritingTogether } from "../platform/db/together";
import { appendWithin } from "../records/ledger/ledger";
import { Problem } from "../platform/problem";
import { checkFresh } from "../platform/rights";
import type { Actor } from "../platform/serving";
import { adapterFor, connectionsByStore } from "../stores/connections";
import { namedStore } from "../stores/namedStore";
import type { ApprovalSetting } from "@/core/preview/approval";
import { approvalSetting, reasonsForDocket } from "./approval";
import { bodiesIn, changesFrom } from "./changes";
import { docketProgress } from "./docketProgress";
import { beginApplying, digestOf, moveDocket, type MoveName, namingOf } from "./lifecycle";
import { AT_MOST, Pace, pacedStore, type StepStore } from "./pace";
import { byShare, carryOutInTurn, isOpen, isUnchecked, probeAgain, outlooksOf, stepsOf } from "./step";
import type { Carrying, Running } from "./carrying";
import type { Asking } from "../engine/client";

/** After a failure on our side, such as a full disk, a docket goes on by itself, after longer and longer pauses. */
const FIRST_PAUSE_MS = 1_000;
const LONGEST_PAUSE_MS = 30_000;

/** How often to check whether another process has halted a docket. */
const LOOK_EVERY_MS = 200;
/** While some steps of a store are under way, as many are being recorded. */
const IN_HAND = 2;

/** The outcome of applying a docket: `asked` where another administrator has to approve it first. */
export type Applied = "begun" | "asked" | "nothing";

/**
 * Begins to carry out what is staged in a docket: a tray only for its owner, who alone has read its
 * preview, and a waiting docket for any administrator. If it needs approval, it waits for another
 * administrator than the one who made it.
 * @param confirmed what the person has confirmed besides the docket itself
 * @throws {Problem} where its maker would approve it, or it reopens something that wasn't confirmed
 */
export async function applyDocket(
  app: Carrying,
  docketId: string,
  actor: string,
  confirmed: Confirmed = { reopened: 0 },
): Promise<Applied> {
  // Judging a docket takes a while, and it may change meanwhile: either what was judged is applied, or nothing is.
  const judged = await judgedNow(app, docketId);
  const applied = await writing(app.db, async (within): Promise<Applied> => {
    const docket = await within.selectFrom("docket").selectAll().where("id", "=", docketId).executeTakeFirst();
    const isTheirs = docket?.state === "waiting" || (docket?.state === "preparing" && docket.made_by === actor);
    if (!isTheirs) return "nothing";
    const changes = await bodiesIn(within, docketId);
    if (changes.length === 0) return "nothing";
    checkShown(changes, confirmed.digest);
    await checkJudged(within, judged, changes);
    checkReopened(judged.reopened, confirmed.reopened);
    await callIt(within, docketId, confirmed, judged.setting.reason ? docket : null);
    const isWeighty = changes.length > app.settings.freshAbove || judged.loosens;
    if (confirmed.by && isWeighty) checkFresh(confirmed.by);
    const { reasons } = judged;
    const author = docket.asked_by ?? docket.made_by;
    if (reasons.length > 0 && author === actor) return askForApproval(within, docket, actor, changes.length, reasons);
    return (await beginApplying(within, docketId, actor, reasons.length > 0 ? actor : null)) ? "begun" : "nothing";
  });
  if (applied === "begun") run(app, docketId);
  return applied;
}

/** Why a docket needs approval and what else matters about it, and which changes and which setting that was judged by. */
interface Judged {
  digest: string;
  setting: ApprovalSetting;
  reasons: string[];
  loosens: boolean;
  /** How many shares that are over it opens again. */
  reopened: number;
}

async function judgedNow(app: Asking, docketId: string): Promise<Judged> {
  const setting = await approvalSetting(app.db);
  const bodies = await bodiesIn(app.db, docketId);
  const changes = await changesFrom(bodies);
  const reasons = await reasonsForDocket(app, docketId, setting, changes);
  const reopened = changes.filter(isReopening).length;
  return { digest: digestOf(bodies), setting, reasons, loosens: changes.some(isLoosening), reopened };
}

async function checkJudged(tx: Tx, judged: Judged, changes: readonly string[]) {
  const setting = JSON.stringify(await approvalSetting(tx));
  const isSame = digestOf(changes) === judged.digest && setting === JSON.stringify(judged.setting);
  if (!isSame) throw new Problem("conflict", "The docket has changed. Nothing was applied: review it again.");
}

/** What is applied is what the person saw and confirmed. */
function checkShown(changes: readonly string[], digest: string | undefined) {
  if (digest !== undefined && digest !== digestOf(changes))
    throw new Problem(
      "conflict",
      `The docket has changed since it was shown to you: it has ${countWords(changes.length, "change")} now. Nothing was applied. Review it again.`,
    );
}

interface Confirmed {
  /** Identifies exactly the changes that were shown; left out where nobody sees them, as in tests. */
  digest?: string;
  /** How many shares that are over will be reopened. */
  reopened: number;
  /** Its name, and the reason it is applied. */
  name?: string;
  reason?: string;
  /** The person in front of the screen: for anything large, or that loosens something, they must have signed in recently. */
  by?: Actor;
}

/**
 * Saves a docket's name and reason; an empty one leaves the old one in place.
 * @param demanding a docket that can only be applied with a reason
 */
async function callIt(tx: Tx, id: string, { name, reason }: Confirmed, demanding: { reason: string | null } | null) {
  if (demanding && !reason && !demanding.reason)
    throw new Problem("bad", "Give a reason: every docket needs one. Nothing was applied.");
  if (!name && !reason) return;
  await tx
    .updateTable("docket")
    .set({ ...(name && { name }), ...(reason && { reason }) })
    .where("id", "=", id)
    .execute();
}

function checkReopened(reopened: number, confirmed: number) {
  if (reopened > confirmed)
    throw new Problem(
      "conflict",
      `${countWords(reopened, "ended share opens", "ended shares open")} again with this docket. Nothing was applied: confirm that, or remove ${reopened === 1 ? "it" : "them"}.`,
    );
}

async function askForApproval(
  tx: Tx,
  { id, asked_by }: { id: string; asked_by: string | null },
  actor: string,
  changes: number,
  reasons: readonly string[],
): Promise<Applied> {
  if (asked_by !== null)
    throw new Problem("conflict", `Waiting for another administrator’s approval: ${listWords(reasons)}.`);
  const entry = { ...(await namingOf(tx, id)), changes, reasons: [...reasons] };
  const more = { row: { asked_by: actor }, entry };
  return (await moveDocket(tx, id, "ask", actor, more)) ? "asked" : "nothing";
}

/** Drops a waiting docket. @returns false where it isn't waiting */
export function dropDocket(app: Carrying, docketId: string, actor: string): Promise<boolean> {
  return moved(app, docketId, "drop", actor);
}

export async function pauseDocket(app: Carrying, docketId: string, actor: string): Promise<void> {
  await haltOne(app, docketId);
  await moved(app, docketId, "pause", actor);
}

export async function resumeDocket(app: Carrying, docketId: string, actor: string): Promise<void> {
  if (await moved(app, docketId, "resume", actor)) run(app, docketId);
}

/** Skips what hasn't begun in a running or paused docket; what may have been sent is finished. */
export async function stopDocket(app: Carrying, docketId: string, actor: string): Promise<void> {
  await haltOne(app, docketId);
  const isStopped = await moved(app, docketId, "stop", actor, async (tx) => {
    await tx
      .updateTable("docket_change")
      .set({
        state: "set-aside",
        answer: `${actor} stopped the docket before this change.`,
        answered_at: tx.clock.text(),
      })
      .where("docket_id", "=", docketId)
      .where("state", "=", "staged")
      .execute();
  });
  if (isStopped) run(app, docketId);
}

/** In a finished docket, tries again what failed, and checks again what couldn't be checked. */
export async function retryFailed(app: Carrying, docketId: string, actor: string): Promise<void> {
  const isRetried = await moved(app, docketId, "retry", actor, async (tx) => {
    await tx
      .updateTable("docket_change")
      .set({ state: "staged" })
      .where("docket_id", "=", docketId)
      .where("state", "=", "failed")
      .execute();
  });
  if (isRetried) run(app, docketId);
}

/** Waits until everything under way in this process has finished. */
async function haltOne(app: Carrying, docketId: string) {
  const one = app.carrying.running.get(docketId);
  one?.halt.abort();
  await one?.finished;
}

/** Moves a docket in a transaction of its own. @param along what is written with the move, or not at all */
async function moved(
  app: Carrying,
  docketId: string,
  name: MoveName,
  actor: string,
  along: (tx: Tx) => Promise<void> = async () => {},
): Promise<boolean> {
  const isMoved = await writing(app.db, async (within) => {
    if (!(await moveDocket(within, docketId, name, actor))) return false;
    await along(within);
    return true;
  });
  if (isMoved) app.carrying.events.emit(docketId);
  return isMoved;
}

/**
 * Somebody takes over by hand what failed in a docket, or couldn't be checked.
 * @throws {Problem} where there is nothing of the kind
 */
export async function takeOver(app: Carrying, docketId: string, actor: string): Promise<void> {
  await writing(app.db, async (within) => {
    const { numUpdatedRows } = await within
      .updateTable("docket_change")
      .set({ state: "by-hand" })
      .where("docket_id", "=", docketId)
      .where((eb) => eb.or([eb("state", "=", "failed"), eb.and([eb("state", "=", "done"), eb("checked", "=", 0)])]))
      .executeTakeFirst();
    if (numUpdatedRows === 0n)
      throw new Problem("conflict", "There is nothing to take over in this docket: every change was done or skipped.");
    await appendWithin(within, actor, "docket-taken-over", { docket: docketId, changes: Number(numUpdatedRows) });
  });
  app.carrying.events.emit(docketId);
}

/** Resumes every docket that was being applied when the process ended. */
export async function resumeInterrupted(app: Carrying): Promise<void> {
  const dockets = await app.db.selectFrom("docket").select("id").where("state", "=", "applying").execute();
  for (const { id } of dockets) run(app, id);
}

/** Begins or resumes carrying out a docket whose state is `applying`. */
export function run(app: Carrying, docketId: string) {
  if (app.carrying.running.has(docketId)) return;
  const one: Running = { halt: new AbortController(), finished: Promise.resolve() };
  app.carrying.running.set(docketId, one);
  one.finished = untilOver(app, docketId, one).finally(() => app.carrying.running.delete(docketId));
}

async function untilOver(app: Carrying, docketId: string, one: Running): Promise<void> {
  for (let pause = FIRST_PAUSE_MS; ; pause = Math.min(2 * pause, LONGEST_PAUSE_MS))
    try {
      return await carryOut(app, docketId, one);
    } catch (error) {
      console.error(`docket ${docketId} waits ${pause / 1_000} s: ${(error as Error).stack}`);
      const isOver = await wait(pause, false, { signal: one.halt.signal }).catch(() => true);
      if (isOver) return;
    }
}

/** Halts everything that this process is carrying out; it resumes when the process starts again. */
export async function haltAll(app: Carrying): Promise<void> {
  for (const { halt } of app.carrying.running.values()) halt.abort();
  await allCarriedOut(app);
}

/** Waits until this process is carrying out nothing. */
export async function allCarriedOut(app: Carrying): Promise<void> {
  while (app.carrying.running.size > 0)
    await Promise.all([...app.carrying.running.values()].map(({ finished }) => finished));
}

async function carryOut(app: Carrying, docketId: string, { halt }: Running): Promise<void> {
  const stores = new Map<string, StepStore>();
  for (const [storeId, one] of await connectionsByStore(app.db)) {
    const store = namedStore(app.db, one.id, adapterFor(app, one));
    stores.set(storeId, pacedStore(one.id, store, paceOf(app, one.id), halt.signal));
  }
  const rows = await stepsOf(app.db, docketId);
  const limits = new Map<string, LimitFunction>();
  const limitOf = (store: string) => limits.get(store) ?? limits.set(store, pLimit(IN_HAND * AT_MOST)).get(store)!;
  const isOn = looksNowAndThen(() => isApplying(app.db, docketId));
  const mayGoOn = async () => !halt.signal.aborted && (await isOn());
  const common = { app, signal: halt.signal, together: new WritingTogether(app.db), outlookOf: outlooksOf(app, rows) };
  const settled = await Promise.allSettled(
    byShare(rows).map((steps) =>
      limitOf(steps[0].store_id)(async () => {
        for (const step of steps)
          if (isOpen(step) && (await mayGoOn())) {
            await app.traffic.giveWay();
            await carryOutInTurn({ ...common, store: stores.get(step.store_id) }, step, steps);
          }
      }),
    ),
  );
  await app.engine.ask("refresh", {});
  await Promise.all(
    rows
      .filter(isUnchecked)
      .map((step) => limitOf(step.store_id)(() => probeAgain({ ...common, store: stores.get(step.store_id) }, step))),
  );
  const failure = settled.find((one) => one.status === "rejected");
  if (failure) throw failure.reason;
  if (!halt.signal.aborted && (await isApplying(app.db, docketId))) await finish(app, docketId);
}

function paceOf(app: Carrying, store: string): Pace {
  const known = app.carrying.paces.get(store);
  if (known) return known;
  const onHeld = () => {
    for (const id of app.carrying.running.keys()) app.carrying.events.emit(id);
  };
  const pace = new Pace(() => app.clock.text(), onHeld);
  app.carrying.paces.set(store, pace);
  return pace;
}

/** An answer that is fetched again only after a while. */
function looksNowAndThen(look: () => Promise<boolean>): () => Promise<boolean> {
  let answer = look();
  let at = performance.now();
  return () => {
    if (performance.now() - at > LOOK_EVERY_MS) [answer, at] = [look(), performance.now()];
    return answer;
  };
}

/** Whether nobody has halted it, in this process or another. */
async function isApplying(db: Db, docketId: string): Promise<boolean> {
  const docket = await db.selectFrom("docket").select("state").where("id", "=", docketId).executeTakeFirst();
  return docket?.state === "applying";
}

async function finish(app: Carrying, docketId: string): Promise<void> {
  const { counts } = await docketProgress(app.db, docketId);
  await writing(app.db, (within) => moveDocket(within, docketId, "finish", "executor", { entry: counts }));
  await app.onFinished();
  app.carrying.events.emit(docketId);
}
