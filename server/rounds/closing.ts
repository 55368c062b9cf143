import type { Change } from "@/core/changes/change";
import type { LineState } from "@/core/rounds/line";
import { type Db, type Tx, writing } from "../platform/db/open";
import { run } from "../dockets/executor";
import { beginApplying, openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import { appendWithin } from "../records/ledger/ledger";
import { needsApproval, outcomesOf, plansFor } from "./carryingOut";
import { countsOf, hashOfOutcome, type Unsettled, unsettledLines } from "./lines";
import { overtake } from "./overtaking";
import { ofRound, type Round, roundStillIn, roundsIn } from "./round";
import type { Rounding } from "./rounding";

/** Closes the rounds whose time is over, and those that were being closed when the process ended. */
export async function closeDue(app: Rounding): Promise<void> {
  const now = app.clock.seconds();
  for (const round of await roundsIn(app.db, ["open", "closing"]))
    if (round.state === "closing" || round.closes_at <= now) await closeRound(app, round.id, null);
}

/**
 * Closes a round: what was decided and not carried out yet is, and what nobody decided becomes what the round says. It
 * is one docket. @param by who closes it before its time; null where that is over
 * @throws {Problem} where it isn't open any more
 */
export function closeRound(app: Rounding, id: number, by: string | null): Promise<void> {
  const known = app.rounding.closing.get(id);
  if (known) return known;
  const closing = close(app, id, by).finally(() => app.rounding.closing.delete(id));
  app.rounding.closing.set(id, closing);
  return closing;
}

async function close(app: Rounding, id: number, by: string | null): Promise<void> {
  const round = await begin(app.db, id, by);
  await overtake(app, round);
  const changes = await changesAtClose(app, round);
  const plans = await plansFor(app, changes);
  const waits = round.asked.carriedOut === "looked" || (await needsApproval(app, changes));
  const docketId = await writing(app.db, async (tx) => {
    await roundStillIn(tx, id, ["closing"]);
    const words = `Round “${round.asked.name}”: closed`;
    const docket = plans.length > 0 ? await openDocket(tx, { madeBy: ITSELF, origin: "round", words, plans }) : null;
    await settleAll(tx, id, docket);
    const now = tx.clock.seconds();
    await tx
      .updateTable("round")
      .set({ state: "closed", closed_at: now, docket_id: docket })
      .where("id", "=", id)
      .execute();
    await appendWithin(tx, round.ended_by ?? ITSELF, "round-closed", {
      ...ofRound(round),
      ...(await countsOf(tx, id)),
      outcome: await hashOfOutcome(tx, id),
      ...{ early: round.ended_by !== null, docket },
    });
    return docket !== null && !waits && (await beginApplying(tx, docket, ITSELF)) ? docket : null;
  });
  if (docketId) run(app, docketId);
}

/** From here on nothing can be decided, so what is carried out is what was decided. */
function begin(db: Db, id: number, by: string | null): Promise<Round> {
  return writing(db, async (tx) => {
    const round = await roundStillIn(tx, id, ["open", "closing"]);
    const ended_by = round.ended_by ?? by;
    await tx.updateTable("round").set({ state: "closing", ended_by }).where("id", "=", id).execute();
    return { ...round, state: "closing", ended_by };
  });
}

async function changesAtClose(app: Rounding, round: Round): Promise<Change[]> {
  const changes: Change[] = [];
  for await (const lines of unsettledLines(app.db, round.id)) {
    const { done } = await outcomesOf(app, lines.filter(isDecided));
    changes.push(...done.flatMap((one) => one.changes));
    const ids = lines.filter((line) => !isDecided(line)).map(({ share_id }) => share_id);
    changes.push(...(await app.engine.ask("undecidedChanges", { ids, round: round.asked })).flat());
  }
  return changes;
}

const isDecided = ({ state }: Unsettled) => state !== "open";

/** Each line is now final, in exactly one state. */
async function settleAll(tx: Tx, roundId: number, docket: string | null): Promise<void> {
  const unsettled = tx
    .updateTable("round_line")
    .where("round_id", "=", roundId)
    .where("settled_at", "is", null)
    .where("state", "!=", "gone");
  await unsettled
    .set({ state: "lapsed" satisfies LineState })
    .where("state", "=", "open")
    .execute();
  await unsettled.set({ settled_at: tx.clock.seconds(), docket_id: docket }).execute();
}

/** Stops a round: what has been carried out stays so, and nothing else will be. */
export async function stopRound(app: Rounding, id: number, actor: string): Promise<void> {
  await writing(app.db, async (tx) => {
    const round = await roundStillIn(tx, id, ["planned", "opening", "open"]);
    // The lines stored so far don't make a round.
    if (round.state === "opening") await tx.deleteFrom("round_line").where("round_id", "=", id).execute();
    const isOpening = round.state === "opening" && { lines: 0 };
    await settleAll(tx, id, null);
    const stopped = { state: "stopped" as const, closed_at: tx.clock.seconds(), ended_by: actor, ...isOpening };
    await tx.updateTable("round").set(stopped).where("id", "=", id).execute();
    await appendWithin(tx, actor, "round-stopped", { ...ofRound(round), ...(await countsOf(tx, id)) });
  });
}
