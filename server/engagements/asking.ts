import type { EngagementAsked } from "@/contract/engagements";
import { DAY, seconds, type Seconds } from "@/core/time/instant";
import type { Asking } from "../engine/client";
import type { WrittenLetter } from "../messages/letters";
import { engagementLetter, type LetterContent } from "../messages/letterWords";
import { writing } from "../platform/db/open";
import type { Platform } from "../platform/platform";
import { Problem } from "../platform/problem";
import { signed, subjectOf } from "../platform/signed";
import { appendWithin } from "../records/ledger/ledger";
import { graceDays, WARNED_S } from "./due";
import { extendEngagement, type OwnEngagement, ownEngagement, ownEngagements } from "./engagements";

/** The longest extension by letter; it can be extended again later. */
const LONGEST_S = 366 * DAY;

/** Tells somebody of all that they answer for and that is about to end; null where nothing is any more. */
export async function engagementContent(app: Asking, { target }: WrittenLetter): Promise<LetterContent | null> {
  const now = app.clock.seconds();
  const grace = await graceDays(app.db);
  const ending = (await ownEngagements(app.db)).filter(({ row, record }) => {
    const ends = seconds(record.endsAt);
    return row.responsible === target && ends > now && ends - WARNED_S <= now;
  });
  if (ending.length === 0) return null;
  const told = ending.map((own) => ({
    ...{ name: own.record.name, organisations: own.record.organisations },
    ...{ ends: seconds(own.record.endsAt), address: addressOf(app, own) },
  }));
  return engagementLetter(told, grace);
}

function addressOf(app: Platform, { record, row }: OwnEngagement): string {
  const subject = JSON.stringify([row.id, row.responsible, record.endsAt]);
  return `${app.settings.url}/project#${signed(app, "engagement", subject, seconds(record.endsAt))}`;
}

/** What a letter is about. @throws {Problem} where its address isn't ours, or holds no longer */
async function askedBy(app: Asking, token: string, network: string): Promise<OwnEngagement> {
  const subject = subjectOf(app, "engagement", token);
  if (subject === null) {
    await app.limits.count([["guess", network]]);
    throw gone();
  }
  const [id, responsible] = JSON.parse(subject) as [string, string, string];
  const own = await ownEngagement(app.db, id);
  // Whoever answers for it now has an address of their own.
  if (own.row.responsible !== responsible) throw gone();
  return own;
}

function gone() {
  return new Problem(
    "gone",
    "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
  );
}

export async function askedAt(app: Asking, token: string, network: string): Promise<EngagementAsked> {
  return asked(app, (await askedBy(app, token, network)).row.id);
}

async function asked(app: Asking, id: string): Promise<EngagementAsked> {
  const { record } = await ownEngagement(app.db, id);
  const sheet = await app.engine.ask("engagementSheet", { id });
  return {
    ...{ name: record.name, organisations: record.organisations, ends: seconds(record.endsAt) },
    ...{ graceDays: await graceDays(app.db), shares: sheet?.shares ?? [], latest: app.clock.seconds() + LONGEST_S },
  };
}

/** Whoever answers for it extends it. */
export async function extendAsked(
  app: Asking,
  { token, ends, reason }: { token: string; ends: Seconds; reason: string },
  network: string,
): Promise<EngagementAsked> {
  const { row } = await askedBy(app, token, network);
  const latest = app.clock.seconds() + LONGEST_S;
  await extendEngagement(app.db, { id: row.id, ends, reason, latest }, row.responsible);
  await app.engine.ask("refresh", {});
  return asked(app, row.id);
}

/** Whoever answers for it has it end as it stands. */
export async function letEnd(app: Asking, token: string, network: string): Promise<EngagementAsked> {
  const { row, record } = await askedBy(app, token, network);
  await writing(app.db, (tx) =>
    appendWithin(tx, row.responsible, "engagement-let-end", {
      ...{ engagement: row.id, name: record.name, ends: record.endsAt },
    }),
  );
  return asked(app, row.id);
}
