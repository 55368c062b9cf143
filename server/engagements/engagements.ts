import { SETTINGS } from "@/core/estate/believed";
import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain, organisationOf } from "@/core/estate/address";
import type { EngagementRecord } from "@/core/estate/records";
import { rfc3339, seconds, type Seconds } from "@/core/time/instant";
import type { Selectable } from "kysely";
import { v7 as uuid } from "uuid";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { EngagementTable } from "../platform/db/schema";
import { Problem } from "../platform/problem";
import { factNow, keepFacts } from "../records/facts";
import { homeDomains } from "../records/homeDomains";
import { appendWithin } from "../records/ledger/ledger";

type Row = Selectable<EngagementTable>;

/** An engagement that was made here: what it says, and what we keep of it. */
export interface OwnEngagement {
  record: EngagementRecord;
  row: Row;
}

/** What somebody says of an engagement. Instants as text. */
export interface Given {
  name: string;
  itemIds: string[];
  organisations: string[];
  starts: string;
  ends: string;
  responsible: string;
}

/** All that were made here, as they are now. */
export async function ownEngagements(db: Reads): Promise<OwnEngagement[]> {
  const rows = await db.selectFrom("engagement").selectAll().orderBy("id").execute();
  return Promise.all(rows.map(async (row) => ({ row, record: (await recordOf(db, row.id))! })));
}

/** @throws {Problem} where none of that id was made here */
export async function ownEngagement(db: Reads, id: string): Promise<OwnEngagement> {
  const row = await db.selectFrom("engagement").selectAll().where("id", "=", id).executeTakeFirst();
  const record = row && (await recordOf(db, id));
  if (!row || !record) throw new Problem("unknown", "This project wasn’t made here: change it where it is told from.");
  return { row, record };
}

const recordOf = (db: Reads, id: string) => factNow<EngagementRecord>(db, "engagement", id);

/** @returns its id. @throws {Problem} where what is given can't be */
export async function makeEngagement(db: Db, given: Given, actor: string): Promise<string> {
  return writing(db, async (tx) => {
    const [id, record] = [uuid(), await recordFrom(tx, given)];
    const row = { id, responsible: await insider(tx, given.responsible), made_by: actor, made_at: tx.clock.seconds() };
    await tx
      .insertInto("engagement")
      .values({ ...row, warned_at: null, docket_at: null })
      .execute();
    await tell(tx, { ...record, id });
    await appendWithin(tx, actor, "engagement-made", entryOf({ ...record, id }, row.responsible));
    return id;
  });
}

/** Changes all of it but its end. */
export async function changeEngagement(
  db: Db,
  { id, ...given }: Omit<Given, "ends"> & { id: string },
  actor: string,
): Promise<void> {
  await writing(db, async (tx) => {
    const { record } = await ownEngagement(tx, id);
    const changed = { ...(await recordFrom(tx, { ...given, ends: record.endsAt })), id };
    const responsible = await insider(tx, given.responsible);
    await tx.updateTable("engagement").set({ responsible }).where("id", "=", id).execute();
    await tell(tx, changed);
    await appendWithin(tx, actor, "engagement-changed", entryOf(changed, responsible));
  });
}

/** Gives an engagement another end, with a reason. @param latest no later than that */
export async function extendEngagement(
  db: Db,
  { id, ends, reason, latest }: { id: string; ends: Seconds; reason: string; latest?: Seconds },
  actor: string,
): Promise<void> {
  await writing(db, async (tx) => {
    const { record } = await ownEngagement(tx, id);
    const now = tx.clock.seconds();
    if (ends <= now) throw new Problem("bad", "ends: choose a day in the future.");
    if (latest !== undefined && ends > latest) throw new Problem("bad", "ends: choose an earlier day.");
    await tell(tx, { ...record, endsAt: rfc3339(ends) });
    const [from, until] = [seconds(record.endsAt), ends];
    await tx.insertInto("extension").values({ engagement_id: id, from, until, reason, by: actor, at: now }).execute();
    await appendWithin(tx, actor, "engagement-extended", {
      ...{ engagement: id, name: record.name, before: record.endsAt, until: rfc3339(ends), reason },
    });
  });
}

/** Ends an engagement now: what belonged to it waits in a docket once its days of grace are over. */
export async function endEngagement(db: Db, id: string, actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const { record } = await ownEngagement(tx, id);
    const now = tx.clock.text();
    if (record.endsAt <= now) throw new Problem("conflict", `${record.name} has already ended.`);
    const startsAt = record.startsAt < now ? record.startsAt : now;
    await tell(tx, { ...record, startsAt, endsAt: now });
    await appendWithin(tx, actor, "engagement-ended", { engagement: id, name: record.name, before: record.endsAt });
  });
}

/** Every other end that an engagement got, the oldest first. */
export function extensionsOf(db: Reads, id: string) {
  return db
    .selectFrom("extension")
    .select(["from", "until", "reason", "by", "at"])
    .where("engagement_id", "=", id)
    .orderBy("id")
    .execute();
}

/** By id: what is kept of each that was made here. */
export async function keptOf(db: Reads) {
  const rows = await db.selectFrom("engagement").selectAll().execute();
  return new Map(
    rows.map(({ id, responsible, made_by: madeBy, made_at: madeAt }) => [id, { responsible, madeBy, madeAt }]),
  );
}

async function recordFrom(tx: Tx, given: Given): Promise<Omit<EngagementRecord, "id">> {
  if (given.starts >= given.ends) throw new Problem("bad", "ends: choose a day after the one on which it starts.");
  for (const itemId of given.itemIds)
    if (!(await factNow(tx, "item", itemId))) throw new Problem("bad", `items: ${itemId} is no longer known.`);
  const home = (await homeDomains(tx)).map(organisationOf);
  const organisations = [...new Set(given.organisations.map((domain) => organisationOf(normaliseDomain(domain))))];
  const own = organisations.find((domain) => home.includes(domain));
  if (own) throw new Problem("bad", `organisations: ${own} is one of your own domains.`);
  const { name, itemIds, starts: startsAt, ends: endsAt } = given;
  return { type: "engagement", name, itemIds: [...new Set(itemIds)], organisations, startsAt, endsAt };
}

async function insider(tx: Tx, address: string): Promise<string> {
  const plain = normaliseAddress(address);
  if (!isHomeDomain(domainOf(plain), await homeDomains(tx)))
    throw new Problem("bad", `responsible: ${plain} is an outsider. Choose one of your own people.`);
  return plain;
}

/** The estate learns it as a fact, like all that it is judged by. */
async function tell(tx: Tx, record: EngagementRecord) {
  const at = tx.clock.text();
  await keepFacts(tx, SETTINGS, [{ record, at, since: at }]);
}

function entryOf({ id, name, organisations, itemIds, startsAt, endsAt }: EngagementRecord, responsible: string) {
  return { engagement: id, name, organisations, items: itemIds, starts: startsAt, ends: endsAt, responsible };
}
