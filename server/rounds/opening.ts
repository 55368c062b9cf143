import { setImmediate } from "node:timers/promises";
import { type Db, writing } from "../platform/db/open";
import { lastMark } from "../records/marks";
import { appendWithin } from "../records/ledger/ledger";
import { decidingOf } from "./deciding";
import { hashOfShares, insertLines, linesOpened, type Opened } from "./lines";
import { planNext } from "./making";
import { ofRound, type Round, roundStillIn, roundsIn } from "./round";
import type { Rounding } from "./rounding";
import { standings } from "./tally";

/** How many lines are fetched from the engine and stored at a time; other requests are served in between. */
const PIECE = 500;
const PUT_AT_ONCE = 150;

/** Opens the rounds whose time has come, and those that were being opened when the process ended. */
export async function openDue(app: Rounding): Promise<void> {
  const now = app.clock.seconds();
  for (const round of await roundsIn(app.db, ["planned", "opening"]))
    if (round.opens_at <= now) await openRound(app, round);
}

/**
 * Opens a round: the shares that match its query now become its lines. They are put down in pieces, and count only once
 * all are there and the round is open: that, their number and their hash are written at once. Whoever is at it already
 * goes on alone; what a process that ended has left behind is done anew.
 */
export function openRound(app: Rounding, round: Round): Promise<void> {
  const known = app.rounding.opening.get(round.id);
  if (known) return known;
  const opening = open(app, round).finally(() => app.rounding.opening.delete(round.id));
  app.rounding.opening.set(round.id, opening);
  return opening;
}

async function open(app: Rounding, { id, ...round }: Round): Promise<void> {
  const opened = app.clock.seconds();
  await begin(app.db, id, opened);
  const mark = await lastMark(app.db);
  const deciding = await decidingOf(app.db, round);
  const ids = await app.engine.ask("roundShares", { query: round.asked.query, deciding });
  const pieces = Array.from({ length: Math.ceil(ids.length / PIECE) }, (_, i) => ids.slice(i * PIECE, (i + 1) * PIECE));
  const linesFor = (piece: string[] | undefined) => {
    const asked = linesOpened(app, piece ?? [], deciding);
    // It is awaited below, where errors are handled; until then nobody listens.
    asked.catch(() => undefined);
    return asked;
  };
  // While some lines are stored, the next are fetched.
  let coming = linesFor(pieces[0]);
  for (const [i, piece] of pieces.entries()) {
    const lines = await coming;
    coming = linesFor(pieces[i + 1]);
    const opened = lines.map((line, at) => line ?? { gone: piece[at] });
    if (!(await putDownAll(app.db, id, opened))) return void (await coming);
  }
  await coming;
  await finish(app.db, id, mark.fact);
}

/** Lines stored before a process ended may be from another instant. */
function begin(db: Db, id: number, opened: number): Promise<void> {
  return writing(db, async (tx) => {
    await roundStillIn(tx, id, ["planned", "opening"]);
    await tx.deleteFrom("round_line").where("round_id", "=", id).execute();
    await tx.updateTable("round").set({ state: "opening", opened_at: opened, lines: 0 }).where("id", "=", id).execute();
  });
}

/** @returns false where somebody has stopped it meanwhile */
async function putDownAll(db: Db, id: number, lines: readonly Opened[]): Promise<boolean> {
  for (let at = 0; at < lines.length; at += PUT_AT_ONCE) {
    if (!(await putDown(db, id, lines.slice(at, at + PUT_AT_ONCE)))) return false;
    await setImmediate();
  }
  return true;
}

function putDown(db: Db, id: number, lines: readonly Opened[]): Promise<boolean> {
  return writing(db, async (tx) => {
    const round = await tx
      .selectFrom("round")
      .select(["state", "lines"])
      .where("id", "=", id)
      .executeTakeFirstOrThrow();
    if (round.state !== "opening") return false;
    insertLines(tx, id, lines);
    await tx
      .updateTable("round")
      .set({ lines: round.lines + lines.length })
      .where("id", "=", id)
      .execute();
    return true;
  });
}

async function finish(db: Db, id: number, fact: number): Promise<void> {
  const hash = await hashOfShares(db, id);
  await writing(db, async (tx) => {
    const round = await roundStillIn(tx, id, ["opening"]);
    const deciders = (await standings(tx, id)).length;
    await tx
      .updateTable("round")
      .set({ state: "open", lines_hash: hash, seen_fact: fact })
      .where("id", "=", id)
      .execute();
    const entry = { query: round.asked.query, lines: round.lines, shares: hash, deciders };
    await appendWithin(tx, round.made_by, "round-opened", { ...ofRound(round), ...entry });
    await planNext(tx, round);
  });
}
