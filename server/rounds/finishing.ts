import type { Finishing } from "@/contract/decisions";
import { previewWords } from "@/core/preview/previewWords";
import { countWords, listWords } from "@/core/text/words";
import type { Preview } from "@/core/preview/preview";
import type { LineState } from "@/core/rounds/line";
import { run } from "../dockets/executor";
import { beginApplying, digestOf, openDocket } from "../dockets/lifecycle";
import { showOnce } from "../dockets/passphrases";
import { docketOfChange } from "../dockets/standing";
import type { Asking } from "../engine/client";
import { type Reads, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import { needsApproval, type Outcome, outcomesOf, plansFor } from "./carryingOut";
import type { AsDecider } from "./decidersPage";
import { type Line, updateLines } from "./lines";
import { ofRound, type Round, roundOf, roundStillIn } from "./round";
import type { Rounding } from "./rounding";

/** What somebody has decided in a round and hasn't been carried out yet. */
async function decidedBy(db: Reads, { roundId, person }: AsDecider): Promise<Line[]> {
  return db
    .selectFrom("round_line")
    .selectAll()
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    .where("settled_at", "is", null)
    .where("state", "in", ["kept", "tightened", "ended"])
    .orderBy("id")
    .execute();
}

/** What finishing would do, from the engine; nothing is done. */
export async function finishing(app: Asking, at: AsDecider): Promise<Finishing> {
  const lines = await decidedBy(app.db, at);
  const { done } = await outcomesOf(app, lines);
  const changes = done.flatMap((one) => one.changes);
  const { open } = await app.db
    .selectFrom("round_line")
    .select((eb) => eb.fn.countAll<number>().as("open"))
    .where("round_id", "=", at.roundId)
    .where("decider", "=", at.person)
    .where("state", "=", "open")
    .executeTakeFirstOrThrow();
  const count = (state: LineState) => lines.filter((line) => line.state === state).length;
  const words = changes.length === 0 ? [] : lossWords(await app.engine.ask("preview", { changes }));
  return {
    ...{ kept: count("kept"), tightened: count("tightened"), ended: count("ended"), open: Number(open) },
    words,
    digest: digestOfOutcomes(done),
  };
}

const digestOfOutcomes = (done: readonly Outcome[]) =>
  digestOf(done.map(({ line, changes }) => JSON.stringify([line.share_id, line.decision, changes])));

const NAMED = 3;

/** Who loses what, who keeps another way in, and the docket's own remarks. */
function lossWords(preview: Preview): string[] {
  const words = preview.organisations
    .filter(({ insider }) => !insider)
    .slice(0, NAMED)
    .map(({ organisation, people, items }) => {
      const verb = people === 1 ? "loses" : "lose";
      return `${countWords(people, "person", "people")} at ${organisation} ${verb} access to ${countWords(items, "item")}.`;
    });
  const keeping = preview.people.filter(({ keeps }) => keeps.count > 0).map(({ name }) => name);
  if (keeping.length > 0) {
    const named = keeping.length > NAMED ? [...keeping.slice(0, NAMED), `${keeping.length - NAMED} more`] : keeping;
    words.push(`${listWords(named)} ${keeping.length === 1 ? "keeps" : "keep"} another way in.`);
  }
  return [...words, previewWords(preview)];
}

/**
 * Says that somebody has finished: what they decided is carried out now, if the round says so, as one docket.
 * @param seen the digest of what they were shown
 * @throws {Problem} if that is no longer what would be done
 */
export async function finish(app: Rounding, at: AsDecider, seen: string): Promise<void> {
  const round = await roundOf(app.db, at.roundId);
  const lines = await decidedBy(app.db, at);
  const { done } = await outcomesOf(app, lines);
  if (digestOfOutcomes(done) !== seen) throw new Problem("conflict", HAS_CHANGED);
  const changes = done.flatMap((one) => one.changes);
  const plans = round.asked.carriedOut === "closed" ? [] : await plansFor(app, changes);
  const waits = round.asked.carriedOut === "looked" || (await needsApproval(app, changes));
  const begun = await writing(app.db, async (tx) => {
    await roundStillIn(tx, round.id, ["open"]);
    await checkSame(tx, at, lines);
    const words = `Round “${round.asked.name}”: decided by ${at.person}`;
    const docket = plans.length > 0 ? await openDocket(tx, { madeBy: at.person, origin: "round", words, plans }) : null;
    const settled = { settled_at: tx.clock.seconds(), docket_id: docket };
    if (round.asked.carriedOut !== "closed")
      await updateLines(
        tx,
        done.map(({ line }) => line.id),
        settled,
      );
    await sayFinished(tx, round, at, done.length, docket);
    return docket !== null && !waits && (await beginApplying(tx, docket, at.person)) ? docket : null;
  });
  if (begun) run(app, begun);
}

const HAS_CHANGED = "Your decisions or their effects have changed since this was shown. Review them again.";

/** Something that wasn't shown was decided in another tab. */
async function checkSame(tx: Tx, at: AsDecider, lines: readonly Line[]): Promise<void> {
  const now = await decidedBy(tx, at);
  const keyOf = (all: readonly Line[]) => all.map(({ share_id, decision }) => `${share_id} ${decision}`).join("\n");
  if (keyOf(now) !== keyOf(lines)) throw new Problem("conflict", HAS_CHANGED);
}

async function sayFinished(tx: Tx, round: Round, { person }: AsDecider, lines: number, docket: string | null) {
  const finished_at = tx.clock.seconds();
  await tx
    .insertInto("round_decider")
    .values({ round_id: round.id, person, seen_at: finished_at, finished_at })
    .onConflict((conflict) => conflict.columns(["round_id", "person"]).doUpdateSet({ finished_at }))
    .execute();
  await appendWithin(tx, person, "round-finished", { ...ofRound(round), lines, docket });
}

/** Shows the decider, once, a passphrase that their own decision set. @throws {Problem} if it isn't theirs */
export async function showToDecider(app: Asking, { roundId, person }: AsDecider, changeId: string): Promise<string> {
  const docket = await docketOfChange(app.db, changeId);
  const line =
    docket?.origin === "round" &&
    (await app.db
      .selectFrom("round_line")
      .select("id")
      .where("round_id", "=", roundId)
      .where("share_id", "=", docket.shareId)
      .where("decided_by", "=", person)
      .where("docket_id", "=", docket.id)
      .executeTakeFirst());
  if (!line) throw new Problem("unknown", "You have no such passphrase.");
  return showOnce(app, changeId, person);
}
