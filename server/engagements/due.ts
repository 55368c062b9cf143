import { z } from "zod";
import { countWords, dayWords } from "@/core/text/words";
import { DAY, seconds } from "@/core/time/instant";
import { planned } from "../dockets/changes";
import { openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import type { Asking } from "../engine/client";
import { writeLetters } from "../messages/letters";
import { type Reads, writing } from "../platform/db/open";
import { ruleSettings } from "../rules";
import { type OwnEngagement, ownEngagement, ownEngagements } from "./engagements";

/** How long before the end its responsible person gets a mail. */
export const WARNED_S = 14 * DAY;

const ruleParameters = z.object({ graceDays: z.number() });

/** How many days after its end what was shared for it must be gone, as the rule about it is set. */
export async function graceDays(db: Reads): Promise<number> {
  const { parameters } = (await ruleSettings(db))["engagement-over"];
  return ruleParameters.parse(parameters).graceDays;
}

/** Tells whoever answers for what is about to end, and puts together the dockets of what is over. Each end counts once. */
export async function engagementsDue(app: Asking): Promise<void> {
  const now = app.clock.seconds();
  const grace = (await graceDays(app.db)) * DAY;
  for (const own of await ownEngagements(app.db)) {
    const ends = seconds(own.record.endsAt);
    if (ends > now && ends - WARNED_S <= now && own.row.warned_at !== ends) await warn(app, own);
    if (ends + grace <= now && own.row.docket_at !== ends) await prepareEnd(app, own);
  }
}

async function warn({ db }: Asking, { row: { id } }: OwnEngagement) {
  await writing(db, async (tx) => {
    const { record, row } = await ownEngagement(tx, id);
    writeLetters(tx, "engagement", [row.responsible]);
    await tx
      .updateTable("engagement")
      .set({ warned_at: seconds(record.endsAt) })
      .where("id", "=", id)
      .execute();
  });
}

/** A docket with all that belonged to it waits for an administrator; where nothing did, there is nothing to wait for. */
async function prepareEnd(app: Asking, { record: { id, endsAt, name } }: OwnEngagement) {
  const end = await app.engine.ask("endOfEngagement", { id });
  const plans = (await planned(app, end?.changes ?? [])).filter((plan) => plan !== null);
  await writing(app.db, async (tx) => {
    const { record, row } = await ownEngagement(tx, id);
    if (record.endsAt !== endsAt || row.docket_at === seconds(endsAt)) return;
    await tx
      .updateTable("engagement")
      .set({ docket_at: seconds(endsAt) })
      .where("id", "=", id)
      .execute();
    if (plans.length === 0) return;
    const left = end!.left.length;
    const stays = left === 0 ? "" : `; ${countWords(left, "share stays", "shares stay")}, for others too`;
    const words = `${name} ended on ${dayWords(seconds(endsAt))}: everything shared for it${stays}`;
    await openDocket(tx, { madeBy: ITSELF, origin: "engagement", words, plans });
  });
}
