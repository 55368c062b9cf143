import { DAY, type Seconds } from "@/core/time/instant";
import { ITSELF } from "../dockets/standingOrders";
import type { Asking } from "../engine/client";
import { type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { ownOf } from "./own";

/**
 * Notes which leavers have something standing, and records in the ledger who is settled, and how long that took.
 * What is still standing comes from the engine, as on their sheet.
 */
export async function noteLeavers(app: Asking): Promise<void> {
  const { leavers, back } = await app.engine.ask("leaversNow", { known: await knownLeavers(app) });
  const standing = new Map(leavers.map(({ address, since }) => [address, since]));
  const isBack = new Set(back);
  await writing(app.db, async (tx) => {
    const now = tx.clock.seconds();
    const known = await tx.selectFrom("leaver").selectAll().execute();
    const isKnown = new Set(known.map(({ person }) => person));
    for (const [person, since] of standing)
      if (!isKnown.has(person))
        await tx
          .insertInto("leaver")
          .values({ person, since: since ?? now })
          .execute();
    for (const { person, since } of known) {
      if (standing.has(person) || (!isBack.has(person) && (await hasOwn(tx, person)))) continue;
      await tx.deleteFrom("leaver").where("person", "=", person).execute();
      // Whoever works here again hasn't been settled: nothing was left to do.
      if (!isBack.has(person)) await appendWithin(tx, ITSELF, "leaver-settled", { person, days: daysTo(now, since) });
    }
  });
}

async function hasOwn(tx: Tx, person: string): Promise<boolean> {
  const { waivers, watches } = await ownOf(tx, person);
  return waivers.length + watches.length > 0;
}

async function knownLeavers({ db }: Asking): Promise<string[]> {
  const rows = await db.selectFrom("leaver").select("person").execute();
  return rows.map(({ person }) => person);
}

function daysTo(now: Seconds, since: Seconds): number {
  return Math.max(0, Math.floor((now - since) / DAY));
}
