import { grouped } from "@/core/text/grouped";
import { MANAGERS_BEFORE_S, type RoundStage, stageDue } from "@/core/rounds/reminders";
import type { Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import { writeLetters } from "../messages/letters";
import { type Db, type Reads, runForEach, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { ofRound, type Round, roundsIn, roundStillIn } from "./round";
import { type Standing, standings } from "./tally";

/** Mails people who still have lines to decide when it is time, and the managers of those who are late. */
export async function askDue(app: Asking): Promise<void> {
  const now = app.clock.seconds();
  for (const round of await roundsIn(app.db, ["open"])) {
    const open = (await standings(app.db, round.id)).filter((one) => one.open > 0);
    await remindDue(app.db, round, open, now);
    if (round.asked.tellManagers && now >= round.closes_at - MANAGERS_BEFORE_S) await tellManagers(app, round, open);
  }
}

function remindDue(db: Db, round: Round, open: readonly Standing[], now: Seconds): Promise<void> {
  return writing(db, async (tx) => {
    const had = await mailsOf(tx, round.id);
    const span = { opened: round.opened_at!, closes: round.closes_at };
    const due = grouped(open, ({ person }) => stageDue(span, had.get(person) ?? NONE, now));
    for (const [stage, all] of due)
      if (stage)
        write(
          tx,
          round.id,
          all.map(({ person }) => person),
          stage,
        );
  });
}

/** The mails that each has received in a round. */
async function mailsOf(db: Reads, roundId: number): Promise<Map<string, Set<RoundStage>>> {
  const rows = await db.selectFrom("round_mail").select(["person", "stage"]).where("round_id", "=", roundId).execute();
  return new Map(
    [...grouped(rows, ({ person }) => person)].map(([person, all]) => [person, new Set(all.map(({ stage }) => stage))]),
  );
}

const NONE: ReadonlySet<RoundStage> = new Set();

/** A mail's content is written when it goes out, for all rounds, so one waiting mail is enough. */
function write(tx: Tx, roundId: number, people: readonly string[], stage: RoundStage): void {
  noteMails(tx, roundId, people, stage);
  writeLetters(tx, "round", people);
}

function noteMails(tx: Tx, roundId: number, people: readonly string[], stage: RoundStage): void {
  const at = tx.clock.seconds();
  runForEach(
    tx,
    `insert into round_mail (round_id, person, stage, at) values (?, ?, ?, ?)
     on conflict (round_id, person, stage) do update set at = excluded.at`,
    people.map((person) => [roundId, person, stage, at]),
  );
}

/** Each manager gets one copy about all of their people who have decided less than half. */
async function tellManagers(app: Asking, round: Round, open: readonly Standing[]): Promise<void> {
  const late = open.filter((one) => 2 * (one.lines - one.open) < one.lines).map(({ person }) => person);
  const people = await app.engine.ask("insiders", { addresses: late });
  await writing(app.db, async (tx) => {
    const had = await mailsOf(tx, round.id);
    const fresh = people.filter(({ address, manager }) => manager !== null && !had.get(address)?.has("manager"));
    noteMails(
      tx,
      round.id,
      fresh.map(({ address }) => address),
      "manager",
    );
    writeLetters(tx, "round-late", [...new Set(fresh.map(({ manager }) => manager!))]);
  });
}

/** Mails whoever still has lines to decide, or some of them, now. @returns how many */
export async function remindNow(
  app: Asking,
  id: number,
  people: readonly string[] | null,
  actor: string,
): Promise<number> {
  return writing(app.db, async (tx) => {
    const round = await roundStillIn(tx, id, ["open"]);
    const open = (await standings(tx, id)).filter((one) => one.open > 0 && (people?.includes(one.person) ?? true));
    write(
      tx,
      id,
      open.map(({ person }) => person),
      "now",
    );
    if (open.length > 0) await appendWithin(tx, actor, "round-reminded", { ...ofRound(round), people: open.length });
    return open.length;
  });
}
