import { isHomeDomain, domainOf, normaliseAddress } from "@/core/estate/address";
import { rfc3339, seconds, type Seconds } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { homeDomains } from "../records/homeDomains";
import { appendWithin } from "../records/ledger/ledger";

/** By address: the last day of those who leave, as it was said here. @param at the instant that is asked about; null for now */
export async function lastDaysAt(db: Reads, at: string | null): Promise<Map<string, Seconds>> {
  const rows = await db
    .selectFrom("last_day")
    .select(["person", "at"])
    .$if(at === null, (query) => query.where("ended_at", "is", null))
    .$if(at !== null, (query) =>
      query
        .where("set_at", "<=", seconds(at!))
        .where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">", seconds(at!))])),
    )
    .execute();
  return new Map(rows.map(({ person, at: day }) => [person, day]));
}

/** The last day that was said here of one person, by whom and why. */
export function lastDaySet(db: Reads, address: string) {
  return db
    .selectFrom("last_day")
    .select(["at", "reason", "set_by as setBy", "set_at as setAt"])
    .where("person", "=", normaliseAddress(address))
    .where("ended_at", "is", null)
    .executeTakeFirst();
}

interface Asked {
  address: string;
  /** The last instant here; null where what directories and stores tell is to count again. */
  day: Seconds | null;
  reason: string;
}

/** Says when somebody leaves. @throws {Problem} where they aren't an insider */
export async function setLastDay(db: Db, { address, day, reason }: Asked, actor: string): Promise<void> {
  const person = normaliseAddress(address);
  await writing(db, async (tx) => {
    if (!isHomeDomain(domainOf(person), await homeDomains(tx)))
      throw new Problem("bad", `address: ${person} is an outsider. Only your own people have a last day here.`);
    const now = tx.clock.seconds();
    const before = await lastDaySet(tx, person);
    if (!before && day === null) throw new Problem("unknown", `No last day was set here for ${person}.`);
    await tx
      .updateTable("last_day")
      .set({ ended_at: now })
      .where("person", "=", person)
      .where("ended_at", "is", null)
      .execute();
    if (day !== null)
      await tx
        .insertInto("last_day")
        .values({ person, at: day, reason, set_by: actor, set_at: now, ended_at: null })
        .execute();
    const told = { before: before ? rfc3339(before.at) : null, day: day === null ? null : rfc3339(day) };
    await appendWithin(tx, actor, "last-day-set", { person, ...told, reason });
  });
}
