import { createHash } from "node:crypto";
import { sql } from "kysely";
import { v7 as uuid } from "uuid";
import type { DocketOrigin, DocketState } from "@/core/changes/states";
import type { PlannedChange } from "@/core/changes/plan";
import type { LedgerBody, LedgerKind } from "@/core/ledger/kinds";
import { breathe } from "../platform/breathe";
import type { Reads, Tx } from "../platform/db/open";
import { bodyNow } from "../records/facts";
import { appendWithin } from "../records/ledger/ledger";
import { noSuchDocket } from "./docketProgress";
import { addChanges, bodiesIn, lastPosition } from "./changes";

/** A move from some states to another, and what the ledger calls it. */
interface Move {
  from: readonly DocketState[];
  to: DocketState;
  entry: LedgerKind;
}

/**
 * Every state that a docket can move to, from which states, and how. A tray is being prepared; other dockets
 * wait for an administrator. Each move is one transaction with its ledger entry.
 */
export const MOVES = {
  /** It needs approval, and waits for another administrator. */
  ask: { from: ["preparing", "waiting"], to: "waiting", entry: "docket-approval-asked" },
  apply: { from: ["preparing", "waiting"], to: "applying", entry: "docket-applied" },
  drop: { from: ["waiting"], to: "dropped", entry: "docket-dropped" },
  pause: { from: ["applying"], to: "paused", entry: "docket-paused" },
  resume: { from: ["paused"], to: "applying", entry: "docket-resumed" },
  /** What hasn't begun is skipped; what may have been sent is finished. */
  stop: { from: ["applying", "paused"], to: "applying", entry: "docket-stopped" },
  /** What failed is tried again. */
  retry: { from: ["done"], to: "applying", entry: "docket-retried" },
  finish: { from: ["applying"], to: "done", entry: "docket-done" },
} as const satisfies Record<string, Move>;
export type MoveName = keyof typeof MOVES;

/** What a move writes to the docket's row and to its ledger entry. */
interface With<M extends MoveName> {
  row?: { asked_by?: string; approved_by?: string | null; applied_by?: string };
  entry?: Omit<LedgerBody<(typeof MOVES)[M]["entry"]>, "docket">;
}

/** Moves a docket. @returns false where its state doesn't allow the move */
export async function moveDocket<M extends MoveName>(
  tx: Tx,
  id: string,
  name: M,
  actor: string,
  more: With<M> = {},
): Promise<boolean> {
  const { from, to, entry } = MOVES[name];
  const { numUpdatedRows } = await tx
    .updateTable("docket")
    .set({ state: to, ...timesOf(tx, name), ...more.row })
    .where("id", "=", id)
    .where("state", "in", from)
    .executeTakeFirst();
  if (numUpdatedRows === 0n) return false;
  await appendWithin(tx, actor, entry, { docket: id, ...more.entry } as LedgerBody<typeof entry>);
  return true;
}

function timesOf(tx: Tx, name: MoveName) {
  if (name === "apply") return { applied_at: tx.clock.text() };
  return name === "finish" ? { finished_at: tx.clock.text() } : {};
}

/** What a docket is for, and who made it. */
interface Opening {
  madeBy: string;
  origin: DocketOrigin;
  /** Null for a tray, which takes anything. */
  words: string | null;
  plans: readonly PlannedChange[][];
}

/** Opens a docket: a tray that is being prepared, or one that waits for an administrator. */
export async function openDocket(tx: Tx, opening: Opening): Promise<string> {
  const { madeBy, origin, words, plans } = opening;
  const id = uuid();
  const state: DocketState = origin === "tray" ? "preparing" : "waiting";
  await tx
    .insertInto("docket")
    .values({ id, state, made_by: madeBy, made_at: tx.clock.text(), origin, words })
    .execute();
  await addChanges(tx, id, plans);
  return id;
}

/**
 * Applies an open docket. What is known now of each share and item is stored with its change, as what was
 * decided about.
 * @returns false where it is empty or no longer open
 */
export async function beginApplying(tx: Tx, id: string, actor: string, approvedBy: string | null = null) {
  const changes = await bodiesIn(tx, id);
  if (changes.length === 0) return false;
  await noteSeen(tx, id);
  const entry = { ...(await namingOf(tx, id)), changes: changes.map((body) => JSON.parse(body)) };
  return moveDocket(tx, id, "apply", actor, { row: { approved_by: approvedBy, applied_by: actor }, entry });
}

/** Records and changes are JSON, and stay within the database. A docket may have ten thousand: the event loop turns in between. */
async function noteSeen(tx: Tx, id: string) {
  const share = bodyNow(["link", "grant"], sql.ref("docket_change.share_id"));
  const item = bodyNow(["item"], sql`docket_change.body ->> '$.itemId'`);
  const last = await lastPosition(tx, id);
  for (let from = 0; from <= last; from += PIECE) {
    await breathe();
    const some = tx
      .updateTable("docket_change")
      .where("docket_id", "=", id)
      .where("position", ">=", from)
      .where("position", "<", from + PIECE);
    await some
      .set({ seen: sql`json_remove(${share}, '$.address')` })
      .where("share_id", "is not", null)
      .execute();
    await some.set({ seen: item }).where("share_id", "is", null).execute();
  }
}
const PIECE = 500;

/** A docket's name and reason, as the ledger and mails give them. @throws {Problem} where there is no such docket */
export async function namingOf(db: Reads, id: string) {
  const docket = await db
    .selectFrom("docket")
    .select(["name", "words", "reason"])
    .where("id", "=", id)
    .executeTakeFirst();
  if (!docket) throw noSuchDocket();
  return { name: docket.name ?? docket.words, reason: docket.reason };
}

/** Identifies a set of changes: two with the same digest do the same. */
export function digestOf(bodies: readonly string[]): string {
  return createHash("sha256").update(JSON.stringify(bodies)).digest("hex");
}
