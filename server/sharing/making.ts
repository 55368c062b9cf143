import { v7 as uuid } from "uuid";
import type { PlannedChange } from "@/core/changes/plan";
import type { GivenWaiver, ShareRequest } from "@/core/sharing/request";
import type { ShareOutlook } from "@/core/sharing/outlook";
import { type Wish, wishWords } from "@/core/sharing/wish";
import { RULES } from "@/core/rules/list";
import { listWords } from "@/core/text/words";
import { rfc3339, seconds } from "@/core/time/instant";
import type { Carrying, Made } from "../dockets/carrying";
import { planned } from "../dockets/changes";
import { docketProgress, firstUndone } from "../dockets/docketProgress";
import { applyDocket } from "../dockets/executor";
import { digestOf, openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import { type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { checkFresh } from "../platform/rights";
import type { Actor } from "../platform/serving";
import { appendWithin } from "../records/ledger/ledger";
import { waiveWithin } from "../rules";
import { tellAsker, tellRecipients } from "./letters";
import { digestOfOutlook, isFreeToMake, outlookOf } from "./look";
import { moveRequest, requestFrom, requestOf } from "./requests";
import { freeRequests } from "./settings";

/** What somebody asks for, and what they were shown of it. */
export interface ShareAsked {
  wish: Wish;
  digest: string;
  why: string;
}

/** Makes a share at once, or on the day it is to start where its store keeps no start. */
export async function makeShare(app: Carrying, actor: Actor, asked: ShareAsked & { waivers: GivenWaiver[] }) {
  const outlook = await outlookShown(app, asked.wish, actor.email, asked.digest);
  checkMakeable(app, outlook, asked.waivers, actor);
  const id = await keepRequest(app, actor.email, asked, outlook.item.name);
  return { id, docketId: await approve(app, await requestOf(app.db, id), actor.email, asked.waivers, outlook) };
}

/** Asks for a share: it waits for an administrator, unless requests of its kind need nobody's approval. */
export async function askForShare(app: Carrying, asker: string, asked: ShareAsked): Promise<ShareRequest> {
  const outlook = await outlookShown(app, asked.wish, asker, asked.digest);
  if (outlook.cannot.length > 0) throw cantBeMade(outlook);
  const id = await keepRequest(app, asker, asked, outlook.item.name);
  const request = await requestOf(app.db, id);
  if (isFreeToMake(await freeRequests(app.db), asked.wish, outlook, app.clock.seconds()))
    await approve(app, request, ITSELF, [], outlook);
  return requestOf(app.db, id);
}

/** An administrator agrees to what somebody asked for, as they were shown it. */
export async function approveRequest(
  app: Carrying,
  actor: Actor,
  id: string,
  { digest, waivers }: { digest: string; waivers: GivenWaiver[] },
): Promise<string | null> {
  const request = await requestOf(app.db, id);
  if (request.state !== "asked") throw new Problem("conflict", "This request has been decided already. Reload it.");
  const outlook = await outlookShown(app, request.wish, request.askedBy, digest);
  checkMakeable(app, outlook, waivers, actor);
  return approve(app, request, actor.email, waivers, outlook);
}

/** Says no, and why: whoever asked is told. */
export function refuseRequest(app: Carrying, actor: string, id: string, word: string): Promise<void> {
  return writing(app.db, async (tx) => {
    const request = await requestOf(tx, id);
    const decided = { decided_by: actor, decided_at: tx.clock.seconds() };
    await moveRequest(tx, id, ["asked"], { state: "refused", word, ...decided });
    await appendWithin(tx, actor, "share-request-refused", { request: id, word });
    await tellAsker(app, tx, { ...request, state: "refused", word });
  });
}

/** Takes back what one asked for, as long as nobody has decided. @throws {Problem} where it is somebody else's */
export function withdrawRequest(app: Carrying, actor: string, id: string): Promise<void> {
  return writing(app.db, async (tx) => {
    const { askedBy } = await requestOf(tx, id);
    if (askedBy !== actor) throw new Problem("unknown", "There is no such request. Reload the list.");
    await moveRequest(tx, id, ["asked", "due"], { state: "withdrawn" });
    await appendWithin(tx, actor, "share-request-withdrawn", { request: id });
  });
}

/** @throws {Problem} where it is no longer what was shown */
async function outlookShown(app: Carrying, wish: Wish, by: string, digest: string): Promise<ShareOutlook> {
  const outlook = await outlookOf(app, wish, { by, mark: "look" });
  if (digestOfOutlook(outlook) !== digest)
    throw new Problem(
      "conflict",
      "What this share would do has changed since it was shown. Nothing was made: look again.",
    );
  return outlook;
}

/** @throws {Problem} where it can't be made, or breaks a rule without leave */
function checkMakeable(app: Carrying, outlook: ShareOutlook, waivers: readonly GivenWaiver[], actor: Actor) {
  if (outlook.cannot.length > 0) throw cantBeMade(outlook);
  const now = app.clock.seconds();
  const waived = new Set(waivers.filter(({ until }) => seconds(until) > now).map(({ rule }) => rule));
  const broken = outlook.breaks.filter(({ rule }) => !waived.has(rule));
  if (broken.length > 0)
    throw new Problem(
      "conflict",
      `It would break ${listWords(broken.map(({ rule }) => `“${RULES[rule].title}”`))}. Change the share, or waive the rule with a reason.`,
    );
  // Leave to break a rule loosens something.
  if (waivers.length > 0) checkFresh(actor);
}

function cantBeMade({ cannot: [{ why, instead }] }: ShareOutlook): Problem {
  return new Problem("conflict", `${why} ${instead}`);
}

function keepRequest(app: Carrying, asker: string, { wish, why }: ShareAsked, itemName: string): Promise<string> {
  return writing(app.db, async (tx) => {
    const id = uuid();
    await tx
      .insertInto("share_request")
      .values({
        ...{ id, item_id: wish.itemId, item_name: itemName, wish: JSON.stringify(wish), why, asked_by: asker },
        ...{ asked_at: tx.clock.seconds(), state: "asked", waivers: "[]", word: null, decided_by: null },
        ...{ decided_at: null, due_at: null, docket_id: null },
      })
      .execute();
    await appendWithin(tx, asker, "share-requested", { request: id, wish: wishWords(wish, itemName), why });
    return id;
  });
}

/** @returns the docket by which it is made; null where that is on a later day */
async function approve(
  app: Carrying,
  request: ShareRequest,
  actor: string,
  given: readonly GivenWaiver[],
  outlook: ShareOutlook,
): Promise<string | null> {
  const { id } = request;
  // Leave is given for what it would break, and for nothing else.
  const waivers = given.filter(({ rule }) => outlook.breaks.some((one) => one.rule === rule));
  const isDue = outlook.makeAt > app.clock.seconds();
  const due = isDue ? outlook.makeAt : null;
  await writing(app.db, async (tx) => {
    const decided = { decided_by: actor, decided_at: tx.clock.seconds(), waivers: JSON.stringify(waivers) };
    await moveRequest(tx, id, ["asked"], { state: isDue ? "due" : "making", due_at: due, ...decided });
    const waived = waivers.map(({ rule }) => rule);
    await appendWithin(tx, actor, "share-request-approved", {
      request: id,
      waived,
      due: due === null ? null : rfc3339(due),
    });
  });
  return isDue ? null : carryOutRequest(app, await requestOf(app.db, id), actor);
}

/** Puts the changes into a docket of their own and has it applied. */
async function carryOutRequest(app: Carrying, request: ShareRequest, actor: string): Promise<string> {
  const { id, wish, itemName, askedBy, why } = request;
  const { changes } = await outlookOf(app, wish, { by: askedBy, mark: id });
  const plans = await planned(app, changes);
  const known = plans.filter((plan): plan is PlannedChange[] => plan !== null);
  if (wish.replaces !== undefined) known.push(...(await replaced(app, wish.replaces)));
  const words = wishWords(wish, itemName);
  const docketId = await writing(app.db, async (tx) => {
    const docket = await openDocket(tx, { madeBy: actor, origin: "share", words, plans: known });
    await moveRequest(tx, id, ["making"], { docket_id: docket });
    return docket;
  });
  const digest = digestOf(known.flat().map(({ change }) => JSON.stringify(change)));
  await applyDocket(app, docketId, actor, { reopened: 0, digest, reason: why || words });
  return docketId;
}

async function replaced(app: Carrying, shareId: string): Promise<PlannedChange[][]> {
  const plans = await planned(app, [{ action: "revoke", shareId }]);
  return plans.filter((plan): plan is PlannedChange[] => plan !== null);
}

/** What follows when a share of a request is there: leave to break what it was given leave for, and who was told so. */
export async function noteMade(tx: Tx, { docketId, made }: Made): Promise<void> {
  const row = await tx.selectFrom("share_request").selectAll().where("docket_id", "=", docketId).executeTakeFirst();
  if (!row) return;
  const { id, waivers, shares, decidedBy, wish } = requestFrom(row);
  await tx
    .updateTable("share_request")
    .set({ shares: JSON.stringify([...shares, made.id]) })
    .where("id", "=", id)
    .execute();
  for (const { rule, reason, until } of waivers) {
    const subject = RULES[rule].items ? wish.itemId : made.id;
    await waiveWithin(tx, decidedBy!, { shareId: subject, rule, reason, until });
  }
  const waived = waivers.map(({ rule }) => rule);
  await appendWithin(tx, decidedBy!, "share-made", { request: id, docket: docketId, shareId: made.id, waived });
}

/** Closes what has been carried out: whoever the shares are for, and whoever asked, are told. */
export async function settleRequests(app: Carrying): Promise<void> {
  const rows = await app.db.selectFrom("share_request").selectAll().where("state", "=", "making").execute();
  for (const request of rows.map(requestFrom)) {
    if (request.docketId === null) continue;
    const { state, counts } = await docketProgress(app.db, request.docketId);
    const isGone = state === "dropped";
    if (state !== "done" && !isGone) continue;
    const isMade = !isGone && counts.done > 0 && request.shares.length > 0;
    const word = isMade ? null : await whyNot(app, request.docketId);
    await writing(app.db, async (tx) => {
      const now = await requestOf(tx, request.id);
      // Another process may have closed it since.
      if (now.state !== "making") return;
      await moveRequest(tx, request.id, ["making"], { state: isMade ? "made" : "failed", word });
      const closed: ShareRequest = { ...now, state: isMade ? "made" : "failed", word };
      if (isMade) await tellRecipients(app, tx, closed);
      else await appendWithin(tx, ITSELF, "share-request-failed", { request: request.id, why: word! });
      await tellAsker(app, tx, closed);
    });
  }
}

async function whyNot(app: Carrying, docketId: string): Promise<string> {
  return (await firstUndone(app.db, docketId)) ?? "Another administrator did not approve it.";
}

/** Why what was approved can't be made now; null where it can. */
async function whyNotByNow(app: Carrying, { id, wish, askedBy, waivers }: ShareRequest): Promise<string | null> {
  const outlook = await app.engine.ask("shareOutlook", { wish, asker: { by: askedBy, mark: id } });
  if (!outlook) return "The item is no longer known.";
  if (outlook.cannot.length > 0) return outlook.cannot[0].why;
  const broken = outlook.breaks.find(({ rule }) => !waivers.some((one) => one.rule === rule));
  return broken ? `By now it would break “${broken.title}”.` : null;
}

/** Makes what is to start now; what would break a rule by now, or can't be made any more, is not made, and it is said why. */
export async function makeDue(app: Carrying): Promise<void> {
  await settleRequests(app);
  const due = await app.db
    .selectFrom("share_request")
    .selectAll()
    .where("state", "=", "due")
    .where("due_at", "<=", app.clock.seconds())
    .execute();
  for (const request of due.map(requestFrom)) {
    const why = await whyNotByNow(app, request);
    await writing(app.db, async (tx) => {
      await moveRequest(tx, request.id, ["due"], why ? { state: "failed", word: why } : { state: "making" });
      if (why === null) return;
      await appendWithin(tx, ITSELF, "share-request-failed", { request: request.id, why });
      await tellAsker(app, tx, { ...request, state: "failed", word: why });
    });
    if (why === null) await carryOutRequest(app, { ...request, state: "making" }, request.decidedBy ?? ITSELF);
  }
}
