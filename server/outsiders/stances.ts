import { SETTINGS } from "@/core/estate/believed";
import { normaliseDomain, organisationOf } from "@/core/estate/address";
import type { PartyRecord, Stance } from "@/core/estate/records";
import { rfc3339, type Seconds } from "@/core/time/instant";
import type { Selectable } from "kysely";
import { ITSELF } from "../dockets/standingOrders";
import { isAmong } from "../platform/db/among";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { StanceTable } from "../platform/db/schema";
import { Problem } from "../platform/problem";
import { keepFacts } from "../records/facts";
import { homeDomains } from "../records/homeDomains";
import { appendWithin } from "../records/ledger/ledger";

type StanceSet = Selectable<StanceTable>;

/** The stances that were set here on some domains, by name. @param past the instant that is asked about; without it, now */
export function stancesSet(db: Reads, domains: readonly string[], past?: Seconds): Promise<StanceSet[]> {
  const set = db.selectFrom("stance").selectAll().where(isAmong("domain", domains)).orderBy("domain");
  if (past === undefined) return set.where("ended_at", "is", null).execute();
  return set
    .where("set_at", "<=", past)
    .where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">", past)]))
    .execute();
}

async function stanceSet(db: Reads, domain: string): Promise<StanceSet | undefined> {
  return (await stancesSet(db, [domain])).at(0);
}

interface Asked {
  domain: string;
  stance: Stance;
  reason: string;
  /** When it stops applying; null where it has no end. */
  until: Seconds | null;
}

/**
 * Sets our stance on an organisation: from now on it is what rules go by, whatever stores or files say.
 * @throws {Problem} where the domain is ours or none that can be of an organisation, or the end is over
 */
export async function setStance(db: Db, asked: Asked, actor: string): Promise<void> {
  const domain = normaliseDomain(asked.domain);
  if (domain !== organisationOf(domain))
    throw new Problem("bad", `domain: ${domain} is part of ${organisationOf(domain)}. Set the stance on that.`);
  if (asked.until !== null && asked.until <= db.clock.seconds())
    throw new Problem("bad", "until: choose a day in the future.");
  await writing(db, async (tx) => {
    if ((await homeDomains(tx)).map(organisationOf).includes(domain))
      throw new Problem("bad", `domain: ${domain} is your own. Stances are for organisations outside.`);
    const before = await stanceSet(tx, domain);
    await endRow(tx, before);
    const { stance, reason, until } = asked;
    await tx
      .insertInto("stance")
      .values({ ...{ domain, stance, reason, until }, set_by: actor, set_at: tx.clock.seconds(), ended_at: null })
      .execute();
    await tell(tx, { type: "party", domain, stance }, false);
    const told = {
      domain,
      before: before?.stance ?? null,
      stance,
      reason,
      until: until === null ? null : rfc3339(until),
    };
    await appendWithin(tx, actor, "stance-set", told);
  });
}

/** Ends a stance that was set here: what stores or files say counts again. @throws {Problem} where there is none */
export async function dropStance(db: Db, domain: string, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const held = await stanceSet(tx, normaliseDomain(domain));
    if (!held) throw new Problem("unknown", `No stance on ${domain} was set here.`);
    await end(tx, held, actor);
  });
}

/** Ends the stances whose day has come. */
export function endStances(db: Db): Promise<void> {
  return writing(db, async (tx) => {
    const over = await tx
      .selectFrom("stance")
      .selectAll()
      .where("ended_at", "is", null)
      .where("until", "<=", tx.clock.seconds())
      .execute();
    for (const held of over) await end(tx, held, ITSELF);
  });
}

async function end(tx: Tx, held: StanceSet, actor: string) {
  const { domain, stance } = held;
  await endRow(tx, held);
  await tell(tx, { type: "party", domain, stance }, true);
  await appendWithin(tx, actor, "stance-ended", { domain, stance });
}

async function endRow(tx: Tx, held: StanceSet | undefined) {
  if (held) await tx.updateTable("stance").set({ ended_at: tx.clock.seconds() }).where("id", "=", held.id).execute();
}

/** The estate learns it as a fact, like all that it is judged by. */
async function tell(tx: Tx, record: PartyRecord, gone: boolean) {
  const at = tx.clock.text();
  await keepFacts(tx, SETTINGS, [{ record, at, since: at, gone }]);
}
