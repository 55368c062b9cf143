import type { DocketLine } from "@/contract/dockets";
import { changeSchema } from "@/core/changes/change";
import type { ChangeState, StagedChange } from "@/core/changes/states";
import type { DocketView, Receipt } from "@/core/preview/docketView";
import { isAmong } from "../platform/db/among";
import type { Db } from "../platform/db/open";
import type { DocketChangeTable } from "../platform/db/schema";
import { approvalSetting, reasonsToApprove } from "./approval";
import { bodiesIn, changeFrom, changesFrom } from "./changes";
import { digestOf } from "./lifecycle";
import { countWaiting } from "./passphrases";
import { toldOfLinks } from "./notices";
import { docketProgress, noSuchDocket } from "./docketProgress";
import type { Asking } from "../engine/client";

/** Dockets that have been applied, newest first, and those that wait. */
export async function docketLines(db: Db): Promise<DocketLine[]> {
  const dockets = await db
    .selectFrom("docket")
    .select(["id", "state", "origin", "made_by", "name", "words", "reason", "applied_at"])
    .where("state", "!=", "preparing")
    .orderBy("applied_at", "desc")
    .orderBy("id", "desc")
    .limit(MOST_LINES)
    .execute();
  return dockets.map(({ id, state, origin, made_by, name, words, reason, applied_at }) => {
    return { id, state, origin, madeBy: made_by, name: name ?? words, reason, appliedAt: applied_at };
  });
}

/** Which receipts of a docket are asked for. */
export interface ReceiptsAsked {
  state: ChangeState | null;
  from: number;
}
const PAGE = 200;
const MOST_LINES = 200;

/** Changes of a docket with what came of each. */
export async function receiptsOf(
  db: Db,
  docketId: string,
  { state, from }: ReceiptsAsked = { state: null, from: 0 },
): Promise<Receipt[]> {
  const rows = await db
    .selectFrom("docket_change")
    .leftJoin("passphrase", "passphrase.change_id", "docket_change.id")
    .leftJoin("docket as undo", "undo.id", "docket_change.undone_in")
    .selectAll("docket_change")
    .select(["passphrase.sealed", "undo.state as undoState"])
    .where("docket_id", "=", docketId)
    .$if(state !== null, (query) => query.where("docket_change.state", "=", state!))
    .orderBy("position")
    .offset(from)
    .limit(PAGE)
    .execute();
  return rows.map((row) => ({
    ...stagedChange(row),
    state: row.state,
    tries: row.tries,
    sentAt: row.sent_at,
    answeredAt: row.answered_at,
    answer: row.answer,
    probe: row.probe,
    isChecked: row.checked === 1,
    request: row.body,
    response: row.answered,
    undone:
      row.undone_in === null || row.undoState === "dropped"
        ? null
        : { docketId: row.undone_in, isOver: row.undoState === "done" },
    passphrase: row.state === "done" && row.sealed !== null ? row.id : null,
    tell: [],
  }));
}

/** What came of the changes to some shares in some dockets, in the order of the changes. */
export async function receiptsOfShares(db: Db, dockets: readonly string[], shareIds: readonly string[]) {
  if (dockets.length === 0) return [];
  const rows = await db
    .selectFrom("docket_change")
    .leftJoin("passphrase", "passphrase.change_id", "docket_change.id")
    .selectAll("docket_change")
    .select(["passphrase.sealed"])
    .where("docket_id", "in", dockets)
    .where(isAmong("docket_change.share_id", shareIds))
    .orderBy("position")
    .execute();
  return rows.map(({ id, docket_id, share_id, body, state, answer, sealed }) => ({
    ...{ docketId: docket_id, shareId: share_id!, change: changeFrom(body), state, answer },
    passphrase: state === "done" && sealed !== null ? id : null,
  }));
}

/** A docket as its page shows it. @throws {Problem} where there is none */
export async function docketView(
  app: Asking,
  docketId: string,
  asked: ReceiptsAsked = { state: null, from: 0 },
): Promise<DocketView> {
  const docket = await app.db.selectFrom("docket").selectAll().where("id", "=", docketId).executeTakeFirst();
  if (!docket) throw noSuchDocket();
  const progress = await docketProgress(app.db, docketId);
  const { counts } = progress;
  const isAhead = docket.state === "waiting" || docket.state === "preparing";
  const bodies = isAhead ? await bodiesIn(app.db, docketId) : [];
  return {
    progress,
    origin: docket.origin,
    madeBy: docket.made_by,
    name: docket.name ?? docket.words,
    reason: docket.reason,
    needsReason: (await approvalSetting(app.db)).reason === true,
    undoes: await undoneBy(app.db, docketId),
    askedBy: docket.asked_by,
    reasons: isAhead ? await reasonsToApprove(app, docketId) : [],
    approvedBy: docket.approved_by,
    passphrases: await countWaiting(app.db, docketId),
    found: asked.state === null ? Object.values(counts).reduce((sum, count) => sum + count, 0) : counts[asked.state],
    receipts: await withThoseToTell(app, await receiptsOf(app.db, docketId, asked)),
    preview: isAhead ? await app.engine.ask("preview", { changes: await changesFrom(bodies) }) : null,
    digest: bodies.length > 0 ? digestOf(bodies) : null,
  };
}

async function withThoseToTell(app: Asking, receipts: Receipt[]): Promise<Receipt[]> {
  const makesLink = ({ change, state }: Receipt) =>
    state === "done" && (change.action === "make-link" || change.action === "remake-link");
  const making = receipts.filter(makesLink);
  if (making.length === 0) return receipts;
  const toldOf = await toldOfLinks(app, making);
  return receipts.map((one) => (makesLink(one) ? { ...one, tell: toldOf(one.response) } : one));
}

async function undoneBy(db: Db, docketId: string): Promise<string | null> {
  const row = await db
    .selectFrom("docket_change")
    .select("docket_id")
    .where("undone_in", "=", docketId)
    .limit(1)
    .executeTakeFirst();
  return row?.docket_id ?? null;
}

/** A change as it was staged, from its row. */
export function stagedChange(
  row: Pick<DocketChangeTable, "subject" | "item_name" | "audience" | "body">,
): StagedChange {
  return {
    subject: row.subject,
    itemName: row.item_name,
    audience: row.audience,
    change: changeSchema.parse(JSON.parse(row.body)),
  };
}
