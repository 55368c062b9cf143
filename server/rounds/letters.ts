import ical, { ICalCalendarMethod } from "ical-generator";
import { grouped } from "@/core/text/grouped";
import { DAY } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { WrittenLetter } from "../messages/letters";
import { type LetterContent, roundLateLetter, roundLetter } from "../messages/letterWords";
import type { Platform } from "../platform/platform";
import { signed } from "../platform/signed";
import { standings } from "./tally";
import { type Round, roundsIn } from "./round";

/** How long after a round closes people can still see what became of their lines. */
const ADDRESS_HOLDS_S = 30 * DAY;

/** Somebody's own page for deciding their lines of one round; its secret is in the part of the address that isn't logged. */
export function decidersAddress(app: Platform, round: Pick<Round, "id" | "closes_at">, person: string): string {
  const token = signed(app, "round", JSON.stringify([round.id, person]), round.closes_at + ADDRESS_HOLDS_S);
  return `${app.settings.url}/decide#${token}`;
}

/** Asks somebody about their lines of all rounds that are open; null where they have none left to decide. */
export async function roundContent(app: Asking, { target }: WrittenLetter): Promise<LetterContent | null> {
  const rounds: { round: Round; open: number }[] = [];
  for (const round of await roundsIn(app.db, ["open"])) {
    const open = await openLinesOf(app, round.id, target);
    if (open > 0) rounds.push({ round, open });
  }
  if (rounds.length === 0) return null;
  const asked = rounds.map(({ round, open }) => ({
    ...{ name: round.asked.name, note: round.asked.note, open, closes: round.closes_at },
    undecided: round.asked.undecided,
    undecidedDays: round.asked.undecidedDays,
    address: decidersAddress(app, round, target),
  }));
  return {
    ...roundLetter(asked),
    calendar: closingDays(
      app,
      rounds.map(({ round }) => round),
    ),
  };
}

async function openLinesOf({ db }: Platform, roundId: number, person: string): Promise<number> {
  const { open } = await db
    .selectFrom("round_line")
    .select((eb) => eb.fn.countAll<number>().as("open"))
    .where("round_id", "=", roundId)
    .where("decider", "=", person)
    .where("state", "=", "open")
    .executeTakeFirstOrThrow();
  return Number(open);
}

/** Closing times of some rounds, as a calendar file (RFC 5545). They are in UTC, so it needs no zone rules. */
function closingDays(app: Platform, rounds: readonly Round[]): string {
  const calendar = ical({ name: "Rounds", method: ICalCalendarMethod.PUBLISH });
  for (const { id, asked, closes_at } of rounds)
    calendar.createEvent({
      id: `round-${id}@tight-latch`,
      stamp: new Date(app.clock.text()),
      start: new Date(closes_at * 1_000),
      end: new Date(closes_at * 1_000),
      summary: `Closes: ${asked.name}`,
      description: "Until then you can decide about your shares. The address is in the mail this came with.",
    });
  // The package leaves out the last line's end.
  return `${calendar.toString().trimEnd()}\r\n`;
}

/** Tells a manager which of their people have decided less than half; null if there are none any more. */
export async function roundLateContent(app: Asking, { target }: WrittenLetter): Promise<LetterContent | null> {
  const late: { round: Round; person: string; open: number; lines: number }[] = [];
  for (const round of await roundsIn(app.db, ["open"])) {
    if (!round.asked.tellManagers) continue;
    const all = (await standings(app.db, round.id)).filter((one) => 2 * (one.lines - one.open) < one.lines);
    late.push(...all.map((one) => ({ round, ...one })));
  }
  if (late.length === 0) return null;
  const people = await app.engine.ask("insiders", { addresses: late.map(({ person }) => person) });
  const theirs = late.map((one, i) => ({ ...one, name: people[i].name, manager: people[i].manager }));
  const mine = theirs.filter(({ manager }) => manager === target);
  if (mine.length === 0) return null;
  return roundLateLetter(
    [...grouped(mine, ({ round }) => round.id).values()].map((all) => ({
      name: all[0].round.asked.name,
      closes: all[0].round.closes_at,
      people: all.map(({ name, open, lines }) => ({ name, open, lines })),
    })),
  );
}
