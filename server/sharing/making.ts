import type { PlannedChange } from "@/core/changes/plan";
import type { LedgerBody } from "@/core/ledger/kinds";
import type { ShareOutlook } from "@/core/sharing/outlook";
import type { GivenWaiver, RequestState, ShareRequest } from "@/core/sharing/request";
import { wishWords } from "@/core/sharing/wish";
import type { Carrying, Made } from "../dockets/carrying";
import { planned } from "../dockets/changes";
import { docketProgress, firstUndone } from "../dockets/docketProgress";
import { applyDocket } from "../dockets/executor";
import { digestOf, openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import { type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { waiveWithin } from "../rules";
import { tellAsker, tellRecipients } from "./letters";
import { moveRequest, requestFrom, requestOf, type RequestRow } from "./requests";

/** A waiver to be given, with what breaks the rule: the new shares or something else. */
export type KeptWaiver = GivenWaiver & { own: boolean; items: string[] };

/** How a request comes to be made: from which state, with what more in its row, and what the ledger says of it. */
interface Step {
  from: RequestState;
  values: Partial<RequestRow>;
  note: LedgerBody<"share-request-approved"> | null;
}

/**
 * Has the changes that were shown made by a docket of their own. The docket and the request's move are one transaction:
 * whenever the process ends, the one is known by the other.
 */
export async function carryOut(
  app: Carrying,
  request: ShareRequest,
  { changes }: ShareOutlook,
  { from, values, note }: Step,
): Promise<string> {
  const { id, wish, itemName, why, decidedBy } = request;
  const actor = decidedBy ?? ITSELF;
  const revoked = wish.replaces === undefined ? [] : [{ action: "revoke" as const, shareId: wish.replaces }];
  const plans = await planned(app, [...changes.map((one) => ({ ...one, mark: id })), ...revoked]);
  const known = plans.filter((plan): plan is PlannedChange[] => plan !== null);
  const words = wishWords(wish, itemName);
  const docketId = await writing(app.db, async (tx) => {
    const docket = await openDocket(tx, { madeBy: actor, origin: "share", words, plans: known });
    await moveRequest(tx, id, [from], { ...values, state: "making", docket_id: docket });
    if (note) await appendWithin(tx, actor, "share-request-approved", note);
    return docket;
  });
  const digest = digestOf(known.flat().map(({ change }) => JSON.stringify(change)));
  await applyDocket(app, docketId, actor, { reopened: 0, digest, reason: why || words });
  return docketId;
}

/** What follows when a share of a request is there: leave to break what it was given leave for, and who was told so. */
export async function noteMade(tx: Tx, { docketId, made }: Made): Promise<void> {
  const row = await tx.selectFrom("share_request").selectAll().where("docket_id", "=", docketId).executeTakeFirst();
  if (!row) return;
  const { id, waivers, shares, decidedBy } = requestFrom(row);
  await tx
    .updateTable("share_request")
    .set({ shares: JSON.stringify([...shares, made.id]) })
    .where("id", "=", id)
    .execute();
  for (const { rule, reason, until, own, items } of JSON.parse(row.waivers) as KeptWaiver[]) {
    // What else breaks it does so once, however many shares are made.
    const subjects = [...(own ? [made.id] : []), ...(shares.length === 0 ? items : [])];
    for (const shareId of subjects) await waiveWithin(tx, decidedBy!, { shareId, rule, reason, until });
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
    // Of several shares some may not have been made: whoever asked is told why.
    const undone = await firstUndone(app.db, request.docketId);
    const word = isMade ? undone : (undone ?? "Another administrator did not approve it.");
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

/** Makes the shares that are due to start; any that would break a rule by now, or can't be made any more, are refused with the reason. */
export async function makeDue(app: Carrying): Promise<void> {
  await settleRequests(app);
  const due = await app.db
    .selectFrom("share_request")
    .selectAll()
    .where("state", "=", "due")
    .where("due_at", "<=", app.clock.seconds())
    .execute();
  for (const request of due.map(requestFrom)) {
    const { wish, askedBy, id } = request;
    const outlook = await app.engine.ask("shareOutlook", { wish, asker: { by: askedBy, mark: id } });
    const why = whyNotByNow(request, outlook);
    if (why === null) await carryOut(app, request, outlook!, { from: "due", values: {}, note: null });
    else await fail(app, request, why);
  }
}

/** Why what was approved can't be made now; null where it can. */
function whyNotByNow({ waivers }: ShareRequest, outlook: ShareOutlook | null): string | null {
  if (!outlook) return "The item is no longer known.";
  if (outlook.cannot.length > 0) return outlook.cannot[0].why;
  const broken = outlook.breaks.find(({ rule }) => !waivers.some((one) => one.rule === rule));
  return broken ? `By now it would break “${broken.title}”.` : null;
}

function fail(app: Carrying, request: ShareRequest, why: string): Promise<void> {
  return writing(app.db, async (tx) => {
    await moveRequest(tx, request.id, ["due"], { state: "failed", word: why });
    await appendWithin(tx, ITSELF, "share-request-failed", { request: request.id, why });
    await tellAsker(app, tx, { ...request, state: "failed", word: why });
  });
}
