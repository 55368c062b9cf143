import { HOUR, type Seconds } from "@/core/time/instant";
import type { LineOpened } from "../engine/roundBook";
import { type Db, type Tx, writing } from "../platform/db/open";
import { lastMark } from "../records/marks";
import { appendWithin } from "../records/ledger/ledger";
import { ITSELF } from "../dockets/standingOrders";
import { decidingOf } from "./deciding";
import { aboutColumns, deciderColumns, linesOpened, type Unsettled, unsettledLines, updateLines } from "./lines";
import { ofRound, type Round, roundsIn } from "./round";
import type { Rounding } from "./rounding";

/** How many lines events have overtaken. */
interface Overtaken {
  /** Their share lets nobody in any more. */
  gone: number;
  /** Their share is no longer what was asked about. */
  changed: number;
  /** Their decider can't decide any more. */
  moved: number;
}

/** Shares end without anything changing, so ends are looked for at this interval. */
const LOOK_EVERY_S: Seconds = HOUR;

/** Looks whether the open rounds still ask about what is so, wherever the estate has changed since the last look. */
export async function overtakeAll(app: Rounding): Promise<void> {
  const { fact } = await lastMark(app.db);
  const now = app.clock.seconds();
  for (const round of await roundsIn(app.db, ["open"])) {
    const looked = app.rounding.looked.get(round.id);
    if (fact === round.seen_fact && looked !== undefined && now - looked < LOOK_EVERY_S) continue;
    await overtake(app, round);
    app.rounding.looked.set(round.id, now);
  }
}

/**
 * Has the lines of an open round keep up with what happens: whose share is over is gone; whose share has changed in
 * something that one decides by is asked anew, with what it was before; whose decider has left goes to the next.
 */
export async function overtake(app: Rounding, round: Round): Promise<void> {
  const { fact } = await lastMark(app.db);
  const isNews = fact !== round.seen_fact;
  const sum: Overtaken = { gone: 0, changed: 0, moved: 0 };
  for await (const lines of unsettledLines(app.db, round.id)) {
    const ids = lines.map(({ share_id }) => share_id);
    const asked = await app.engine.ask("linesAsked", { ids });
    await take(app, round, lines, asked, sum);
    if (isNews) sum.moved += await moveFromLeavers(app, round, lines);
  }
  await note(app.db, round, sum, fact);
}

async function take(
  app: Rounding,
  round: Round,
  lines: readonly Unsettled[],
  asked: (string | null)[],
  sum: Overtaken,
) {
  const gone = lines.filter((_, i) => asked[i] === null);
  const changed = lines.filter((line, i) => asked[i] !== null && asked[i] !== line.asked);
  if (gone.length + changed.length === 0) return;
  const ids = changed.map(({ share_id }) => share_id);
  const now = await linesOpened(app, ids, await decidingOf(app.db, round));
  await writing(app.db, async (tx) => {
    sum.gone += await endLines(tx, gone);
    for (const [i, line] of changed.entries()) if (now[i]) sum.changed += await askAnew(tx, line, now[i]);
  });
}

/** What was decided stays in the ledger; it was about something else. */
function endLines(tx: Tx, gone: readonly Unsettled[]): Promise<number> {
  const ids = gone.map(({ id }) => id);
  return updateLines(tx, ids, { state: "gone", settled_at: tx.clock.seconds() });
}

function askAnew(tx: Tx, line: Unsettled, now: LineOpened): Promise<number> {
  return updateLines(tx, [line.id], {
    ...aboutColumns(now),
    // It may let in other people now, and nobody decides on their own access.
    ...(line.decided_as !== null && deciderColumns(now)),
    ...{ state: "open", until: null, decided_by: null, decided_at: null, seconds: null, overruled: null, reason: null },
    ...{ changed_at: tx.clock.seconds(), before: line.sentence },
  });
}

/** Lines of people who can no longer decide go to whoever the round would ask next, never to the people of the share. */
async function moveFromLeavers(app: Rounding, round: Round, lines: readonly Unsettled[]): Promise<number> {
  const addresses = [...new Set(lines.map(({ decider }) => decider))].filter(Boolean);
  const people = await app.engine.ask("insiders", { addresses });
  const left = new Set(people.filter(({ isActive }) => !isActive).map(({ address }) => address));
  const theirs = lines.filter(({ decider, state }) => left.has(decider) && state === "open");
  if (theirs.length === 0) return 0;
  const ids = theirs.map(({ share_id }) => share_id);
  const now = await linesOpened(app, ids, await decidingOf(app.db, round));
  return writing(app.db, async (tx) => {
    let moved = 0;
    for (const [i, { id }] of theirs.entries())
      moved += await updateLines(tx, [id], deciderColumns({ decider: now[i]?.decider ?? null }));
    return moved;
  });
}

function note(db: Db, round: Round, sum: Overtaken, fact: number): Promise<void> {
  return writing(db, async (tx) => {
    await tx.updateTable("round").set({ seen_fact: fact }).where("id", "=", round.id).execute();
    if (sum.gone + sum.changed + sum.moved > 0)
      await appendWithin(tx, ITSELF, "lines-overtaken", { ...ofRound(round), ...sum });
  });
}
