import { v7 as uuid } from "uuid";
import type { GivenWaiver, ShareRequest } from "@/core/sharing/request";
import type { ShareOutlook } from "@/core/sharing/outlook";
import { type Wish, wishWords } from "@/core/sharing/wish";
import { RULES } from "@/core/rules/list";
import { listWords } from "@/core/text/words";
import { rfc3339, seconds } from "@/core/time/instant";
import type { Carrying } from "../dockets/carrying";
import { ITSELF } from "../dockets/standingOrders";
import { writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { checkFresh } from "../platform/rights";
import type { Actor } from "../platform/serving";
import { appendWithin } from "../records/ledger/ledger";
import { tellAsker } from "./letters";
import { digestOfOutlook, isFreeToMake, outlookOf } from "./look";
import { carryOut, type KeptWaiver } from "./making";
import { moveRequest, requestOf } from "./requests";
import { freeRequests } from "./settings";

/** What somebody asks for, and the digest of what they were shown. */
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

/** Withdraws one's own request, as long as nobody has decided. @throws {Problem} where it is somebody else's */
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

/** @throws {Problem} where it can't be made, or breaks a rule without a waiver */
function checkMakeable(app: Carrying, outlook: ShareOutlook, waivers: readonly GivenWaiver[], actor: Actor) {
  if (outlook.cannot.length > 0) throw cantBeMade(outlook);
  const now = app.clock.seconds();
  const waived = new Set(waivers.filter(({ until }) => seconds(until) > now).map(({ rule }) => rule));
  const broken = outlook.breaks.filter(({ rule, canWaive }) => !canWaive || !waived.has(rule));
  if (broken.length > 0)
    throw new Problem(
      "conflict",
      `It would break ${listWords(broken.map(({ rule }) => `“${RULES[rule].title}”`))}. Change the share, or waive the rule with a reason.`,
    );
  // A waiver loosens something.
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
  const waivers = waiversFor(outlook, given);
  const due = outlook.makeAt > app.clock.seconds() ? outlook.makeAt : null;
  const decided = { decided_by: actor, decided_at: app.clock.seconds(), waivers: JSON.stringify(waivers) };
  const entry = {
    request: request.id,
    waived: waivers.map(({ rule }) => rule),
    due: due === null ? null : rfc3339(due),
  };
  if (due === null) {
    const approved = { ...request, decidedBy: actor };
    return carryOut(app, approved, outlook, { from: "asked", values: decided, note: entry });
  }
  await writing(app.db, async (tx) => {
    await moveRequest(tx, request.id, ["asked"], { state: "due", due_at: due, ...decided });
    await appendWithin(tx, actor, "share-request-approved", entry);
  });
  return null;
}

/** Waivers are given for the rules that it would break, and for nothing else. */
function waiversFor({ breaks }: ShareOutlook, given: readonly GivenWaiver[]): KeptWaiver[] {
  return given.flatMap((waiver) => {
    const broken = breaks.find(({ rule }) => rule === waiver.rule);
    return broken ? [{ ...waiver, own: broken.own, items: broken.items }] : [];
  });
}
