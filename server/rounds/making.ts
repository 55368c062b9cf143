import type { Forecast } from "@/core/rounds/forecast";
import { nextOpening } from "@/core/rounds/recurrence";
import { type RoundAsked, whyNotHeld } from "@/core/rounds/round";
import { parseQuery } from "@/core/query/parse";
import { rfc3339, seconds, type Seconds } from "@/core/time/instant";
import { dayWords } from "@/core/text/words";
import type { Asking } from "../engine/client";
import { type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";
import { decidingOf } from "./deciding";
import { ofRound, type Round, roundOf, roundStillIn } from "./round";

/** What a round would be if it were opened now. @throws {Problem} where its query can't be read */
export async function forecast(app: Asking, asked: Pick<RoundAsked, "query" | "order" | "named">): Promise<Forecast> {
  const { problems } = parseQuery(asked.query);
  if (problems.length > 0) throw new Problem("bad", `Shares: ${problems[0].message}`);
  const deciding = await decidingOf(app.db, { asked: asked as RoundAsked });
  return app.engine.ask("roundForecast", { query: asked.query, deciding });
}

/** Plans a round, which opens when its time comes. @returns its number @throws {Problem} where it can't be held */
export async function makeRound(app: Asking, asked: RoundAsked, actor: string): Promise<number> {
  const now = app.clock.seconds();
  const why = whyNotHeld(asked, now);
  if (why) throw new Problem("bad", why);
  await checkNamed(app, asked);
  const { lines } = await forecast(app, asked);
  if (lines === 0)
    throw new Problem("bad", "Shares: nothing matches, so there would be nothing to ask about. Widen the query.");
  return writing(app.db, (tx) => planRound(tx, asked, null, actor));
}

async function checkNamed(app: Asking, { order, named }: RoundAsked) {
  if (!order.includes("named")) return;
  const [person] = await app.engine.ask("insiders", { addresses: [named!] });
  if (!person.isActive)
    throw new Problem(
      "bad",
      `Ask: ${named} isn’t one of your active people, so they can’t decide. Name somebody else.`,
    );
}

/** Stores a round. @param series the first of its series; null if this is the first, or it is held once */
async function planRound(tx: Tx, asked: RoundAsked, series: number | null, actor: string): Promise<number> {
  const { id } = await tx
    .insertInto("round")
    .values({
      body: JSON.stringify(asked),
      series,
      state: "planned",
      opens_at: seconds(asked.opens),
      closes_at: seconds(asked.closes),
      made_by: actor,
      made_at: tx.clock.seconds(),
      opened_at: null,
      closed_at: null,
      ended_by: null,
      lines_hash: null,
      docket_id: null,
    })
    .returning("id")
    .executeTakeFirstOrThrow();
  if (asked.repeat !== null && series === null)
    await tx.updateTable("round").set({ series: id }).where("id", "=", id).execute();
  const { name, query, opens, closes, repeat } = asked;
  await appendWithin(tx, actor, "round-made", { round: id, name, query, opens, closes, repeat });
  return id;
}

/** Plans the next round of a series, if there is one. */
export async function planNext(tx: Tx, round: Round): Promise<void> {
  const next = await nextOf(tx, round);
  if (next === null) return;
  const lasts = seconds(round.asked.closes) - seconds(round.asked.opens);
  const asked = { ...round.asked, opens: rfc3339(next), closes: rfc3339(next + lasts) };
  await planRound(tx, asked, round.series, round.made_by);
}

/** When the next round of a series opens; null where there is none. */
async function nextOf(tx: Tx, { id, series, asked, opens_at }: Round): Promise<Seconds | null> {
  if (asked.repeat === null || series === null) return null;
  const first = series === id ? opens_at : (await roundOf(tx, series)).opens_at;
  const known = await tx
    .selectFrom("round")
    .select("id")
    .where("series", "=", series)
    .where("opens_at", ">", opens_at)
    .executeTakeFirst();
  return known ? null : nextOpening({ rule: asked.repeat, zone: asked.zone, first }, opens_at);
}

/** Gives deciders more time. @throws {Problem} unless that is later, and before the next of its series opens */
export async function extendRound(app: Asking, id: number, closes: Seconds, actor: string): Promise<void> {
  await writing(app.db, async (tx) => {
    const round = await roundStillIn(tx, id, ["planned", "open"]);
    if (closes <= round.closes_at)
      throw new Problem(
        "bad",
        `Until: choose a day after ${dayWords(round.closes_at)}. To close it sooner, close it early.`,
      );
    const why = whyNotHeld({ ...round.asked, repeat: null, closes: rfc3339(closes) }, tx.clock.seconds());
    if (why) throw new Problem("bad", why);
    await checkBeforeNext(tx, round, closes);
    await tx.updateTable("round").set({ closes_at: closes }).where("id", "=", id).execute();
    const entry = { ...ofRound(round), before: rfc3339(round.closes_at), closes: rfc3339(closes) };
    await appendWithin(tx, actor, "round-extended", entry);
  });
}

async function checkBeforeNext(tx: Tx, { series, opens_at }: Round, closes: Seconds) {
  if (series === null) return;
  const next = await tx
    .selectFrom("round")
    .select("opens_at")
    .where("series", "=", series)
    .where("opens_at", ">", opens_at)
    .where("state", "=", "planned")
    .executeTakeFirst();
  if (next && closes > next.opens_at)
    throw new Problem(
      "bad",
      `Until: the next of this series opens on ${dayWords(next.opens_at)}; close this one before then.`,
    );
}
