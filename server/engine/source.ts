import { sql } from "kysely";
import type { Held } from "@/core/access/history";
import type { Patch } from "@/core/access/standing";
import { Estate } from "@/core/estate/estate";
import type { Sourced } from "@/core/estate/believed";
import type { RecordOf, ShareRecord } from "@/core/estate/records";
import type { RuleSet } from "@/core/rules/findings";
import type { RuleId } from "@/core/rules/ruleWords";
import { ruleSetOf } from "@/core/rules/setting";
import type { Waiver } from "@/core/rules/waivers";
import { NEVER, seconds, type Seconds } from "@/core/time/instant";
import type { Db } from "../platform/db/open";
import { ruleSettings } from "../rules/settings";
import { lastUsesUpTo } from "../records/events/events";
import { currentRecords, factsInPieces, recordsAt, recordsBetween, recordText, shareHistory } from "../records/facts";
import { readSnapshot, writeSnapshot } from "./snapshot";

/** Up to where facts have been taken in. */
export interface Mark {
  fact: number;
  removal: number;
}

/** Where an engine has its estate from. */
export interface Source {
  /** The whole estate, settled. */
  estate(): Promise<Estate>;
  /** What has changed since the last time that it was asked for the estate or for changes. */
  changes(): Promise<Patch>;
  /** Every fact with the period in which it held. */
  facts(): Promise<Held[]>;
  /** Which shares may break which rules. */
  waivers(): Promise<Waiver[]>;
  /** The rules that run. */
  rules(): Promise<RuleSet>;
  /** By id of the share: when we end it ourselves. */
  orders(): Promise<Map<string, Seconds>>;
  /** Keeps the estate as it is now for the next start, where that is worth it. */
  keep(estate: Estate): Promise<void>;
  /** All that a share's record has been, in the order of time. */
  history(id: string): Promise<Held[]>;
  /** A share's own record, with its address and its recipients' use. */
  record(id: string): Promise<ShareRecord | null>;
}

/** After so many new facts the columns are written anew, so that the next start has few to catch up with. */
const FACTS_A_SNAPSHOT = 20_000;

/** The estate as it is now: from the columns kept on disk where there are such, else from all facts. */
export function currentSource(db: Db, snapshotPath: string): Source {
  let taken: Mark = { fact: 0, removal: 0 };
  let kept: Mark = taken;
  return {
    async estate() {
      const snapshot = await readSnapshot(db, snapshotPath);
      if (snapshot) {
        taken = kept = snapshot.mark;
        return snapshot.estate;
      }
      taken = await lastMark(db);
      return estateFrom(currentRecords(db, taken.fact));
    },
    async changes() {
      const end = await lastMark(db);
      const patch = await changesBetween(db, taken, end);
      taken = end;
      return patch;
    },
    async keep(estate) {
      if (taken.fact - kept.fact < FACTS_A_SNAPSHOT) return;
      await writeSnapshot(db, snapshotPath, taken, estate);
      kept = taken;
    },
    facts: () => allFacts(db),
    waivers: () => waiversAt(db, null),
    rules: async () => ruleSetOf(await ruleSettings(db)),
    orders: () => ordersAt(db, null),
    history: (id) => shareHistory(db, id, null),
    record: (id) => recordText(db, id, null).then(parsed),
  };
}

/** The estate as it was at an instant. */
export function pastSource(db: Db, at: string): Source {
  return {
    async estate() {
      const estate = await estateFrom(recordsAt(db, at), seconds(at));
      await tellUses(db, estate);
      return estate;
    },
    changes: async () => ({ put: [], removed: [] }),
    keep: async () => {},
    waivers: () => waiversAt(db, at),
    rules: async () => ruleSetOf(await ruleSettings(db, at)),
    orders: () => ordersAt(db, at),
    facts: () => allFacts(db),
    history: (id) => shareHistory(db, id, at),
    record: (id) => recordText(db, id, at).then(parsed),
  };
}

/** Those that were given, and had not been ended, at an instant, or now. */
async function waiversAt(db: Db, at: string | null): Promise<Waiver[]> {
  const held =
    at === null
      ? sql<boolean>`ended_at is null`
      : sql<boolean>`given_at <= ${at} and (ended_at is null or ended_at > ${at})`;
  const waivers = await db.selectFrom("waiver").select(["share_id", "rule", "until"]).where(held).execute();
  return waivers.map(({ share_id, rule, until }) => ({
    shareId: share_id,
    rule: rule as RuleId,
    until: seconds(until),
  }));
}

/** Those that stood at an instant, or stand now. */
async function ordersAt(db: Db, at: string | null): Promise<Map<string, Seconds>> {
  const held =
    at === null
      ? sql<boolean>`state = 'standing'`
      : sql<boolean>`made_at <= ${at} and (ended_at is null or ended_at > ${at})`;
  const orders = await db.selectFrom("standing_order").select(["share_id", "on_at"]).where(held).execute();
  return new Map(orders.map(({ share_id, on_at }) => [share_id, seconds(on_at)]));
}

async function allFacts(db: Db): Promise<Held[]> {
  const facts: Held[] = [];
  for await (const fact of factsInPieces(db)) facts.push(fact);
  return facts;
}

function parsed(body: string | null): ShareRecord | null {
  return body === null ? null : JSON.parse(body);
}

/** @param asAt the instant that is asked about, where it lies in the past */
async function estateFrom(records: AsyncIterable<Sourced>, asAt: Seconds = NEVER): Promise<Estate> {
  const estate = new Estate();
  estate.principals.asAt = asAt;
  for await (const record of records) estate.put(record);
  estate.settle();
  return estate;
}

/** A record that reaches back tells the last use of all; the trail may know of one before the instant asked about. */
async function tellUses(db: Db, { shares, asAt }: Estate) {
  const later = [...shares.ids].filter((_, slot) => shares.lastUsed[slot] > asAt);
  for (const [id, at] of await lastUsesUpTo(db, asAt, later)) shares.tellUse(shares.find(id)!, at);
}

async function lastMark(db: Db): Promise<Mark> {
  const fact = await db
    .selectFrom("fact")
    .select((eb) => eb.fn.max("id").as("last"))
    .executeTakeFirst();
  const removal = await db
    .selectFrom("removal")
    .select((eb) => eb.fn.max("seq").as("last"))
    .executeTakeFirst();
  return { fact: Number(fact?.last ?? 0), removal: Number(removal?.last ?? 0) };
}

/** Of a thing that changed more than once only what it is now; of one that ended and began again nothing is removed. */
async function changesBetween(db: Db, from: Mark, to: Mark): Promise<Patch> {
  const removed = await db
    .selectFrom("removal")
    .innerJoin("fact", "fact.id", "removal.fact_id")
    .select("fact.body")
    .where("removal.seq", ">", from.removal)
    .where("removal.seq", "<=", to.removal)
    .where("fact.type", "=", "member")
    .where(
      sql<boolean>`not exists (select 1 from fact as now where now.type = fact.type and now.key = fact.key and now."to" is null)`,
    )
    .execute();
  return {
    put: await recordsBetween(db, from.fact, to.fact),
    removed: removed.map(({ body }) => JSON.parse(body) as RecordOf<"member">),
  };
}
