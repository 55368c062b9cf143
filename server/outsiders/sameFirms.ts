import { normaliseDomain } from "@/core/estate/address";
import { seconds } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { appendWithin } from "../records/ledger/ledger";

/** Pairs of domains that are one firm's, each in the order of its letters. @param at the instant that is asked about; null for now */
export async function sameFirms(db: Reads, at: string | null): Promise<[string, string][]> {
  const rows = await db
    .selectFrom("same_firm")
    .select(["domain", "other"])
    .$if(at === null, (query) => query.where("ended_at", "is", null))
    .$if(at !== null, (query) =>
      query
        .where("said_at", "<=", seconds(at!))
        .where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">", seconds(at!))])),
    )
    .execute();
  return rows.map(({ domain, other }) => [domain, other]);
}

/** Says that two domains are one firm's, or that they aren't after all. @throws {Problem} where both are the same */
export async function saySame(db: Db, domains: [string, string], isSame: boolean, actor: string): Promise<void> {
  const [domain, other] = domains.map(normaliseDomain).sort();
  if (domain === other) throw new Problem("bad", "domains: name two different ones.");
  await writing(db, async (tx) => {
    const known = await tx
      .selectFrom("same_firm")
      .select("id")
      .where("domain", "=", domain)
      .where("other", "=", other)
      .where("ended_at", "is", null)
      .executeTakeFirst();
    if (Boolean(known) === isSame) return;
    const now = tx.clock.seconds();
    if (known) await tx.updateTable("same_firm").set({ ended_at: now }).where("id", "=", known.id).execute();
    else
      await tx
        .insertInto("same_firm")
        .values({ domain, other, said_by: actor, said_at: now, ended_at: null })
        .execute();
    await appendWithin(tx, actor, isSame ? "same-firm-said" : "same-firm-unsaid", { domains: [domain, other] });
  });
}
