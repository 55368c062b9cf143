import { normaliseDomain } from "@/core/estate/address";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { type Db, type Reads, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";

/** The notes on an organisation, the newest first; as they were at an instant where one is given. */
export async function notesOn(db: Reads, domain: string, past?: Seconds) {
  const rows = await db
    .selectFrom("organisation_note")
    .select(["author", "at", "text"])
    .where("domain", "=", normaliseDomain(domain))
    .$if(past !== undefined, (query) => query.where("at", "<=", past!))
    .orderBy("id", "desc")
    .execute();
  return rows.map(({ author, at, text }) => ({ author, at: rfc3339(at), text }));
}

export async function leaveNote(db: Db, given: { domain: string; text: string }, author: string): Promise<void> {
  const [domain, text] = [normaliseDomain(given.domain), given.text];
  await writing(db, async (tx) => {
    await tx.insertInto("organisation_note").values({ domain, author, at: tx.clock.seconds(), text }).execute();
    await appendWithin(tx, author, "organisation-note-left", { domain, text });
  });
}
