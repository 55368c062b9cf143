import type { z } from "zod";
import type { waiversBody } from "@/contract/rules";
import { misunderstoodIn } from "@/core/query/parse";
import type { Waiver } from "@/core/rules/waivers";
import type { WaiverLine, WaiverView } from "@/core/register/remarks";
import type { RuleId } from "@/core/rules/list";
import { DAY, rfc3339, seconds } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { appendWithin } from "../records/ledger/ledger";
import { writeLetter } from "../messages/letters";
import type { Platform } from "../platform/platform";
import type { Asking } from "../engine/client";

/** @throws {Problem} where the end lies in the past */
function mustEndLater(app: Platform, until: string) {
  if (seconds(until) <= app.clock.seconds()) throw new Problem("bad", "until: choose a time in the future.");
}

/** Waives each finding among some shares. @returns how many */
export async function giveWaivers(app: Asking, actor: string, given: z.infer<typeof waiversBody>): Promise<number> {
  const { shareIds, query, rules, reason, until } = given;
  mustEndLater(app, until);
  const why = query === undefined ? null : misunderstoodIn(query);
  if (why) throw new Problem("bad", `Nothing was waived: ${why}.`);
  const shares = shareIds ? { ids: shareIds } : { query: query! };
  const findings = await app.engine.ask("broken", { shares, rules });
  if (findings.length === 0) return 0;
  await writing(app.db, async (within) => {
    for (const { shareId, rule } of findings) await keepWaiver(within, actor, { shareId, rule, reason, until });
    await appendWithin(within, actor, "waivers-given", { query: query ?? null, findings, reason, until });
  });
  await app.engine.ask("refresh", {});
  return findings.length;
}

/** Every waiver with what it is for: those that hold first, the next to end before the others. */
export async function allWaivers(app: Asking, at?: number): Promise<WaiverLine[]> {
  const waivers = await waiversOn(app.db, null, at);
  const rows = await app.engine.ask("rows", { ids: [...new Set(waivers.map(({ shareId }) => shareId))] }, at);
  const known = new Map(rows.map((row) => [row.id, row]));
  const lines = waivers.map((waiver) => {
    const row = known.get(waiver.shareId);
    return { ...waiver, itemName: row?.itemName ?? null, place: row ? [row.storeName, ...row.place].join(" / ") : "" };
  });
  return lines.sort((a, b) => Number(a.isOver) - Number(b.isOver) || (a.ends < b.ends ? -1 : 1));
}

/** Ends waivers before their time; those that are over already stay as they are. */
export async function endMany(app: Asking, actor: string, ids: readonly number[]): Promise<void> {
  await writing(app.db, (within) => endWaiversWithin(within, actor, ids));
  await app.engine.ask("refresh", {});
}

/** The same, within a transaction. @throws {Problem} where none of them holds */
export async function endWaiversWithin(within: Tx, actor: string, ids: readonly number[]): Promise<void> {
  const ended = await within
    .updateTable("waiver")
    .set({ ended_at: within.clock.text() })
    .where("id", "in", ids)
    .where("ended_at", "is", null)
    .returning(["id", "share_id", "rule"])
    .execute();
  if (ended.length === 0) throw new Problem("unknown", "None of these waivers is still active. Reload the list.");
  await appendWithin(within, actor, "waivers-ended", {
    waivers: ended.map(({ id, share_id, rule }) => ({ id, shareId: share_id, rule })),
  });
}

/** Ids of the waivers that somebody gave and that hold. */
export async function waiversGivenBy(db: Reads, address: string): Promise<number[]> {
  const given = await db
    .selectFrom("waiver")
    .select("id")
    .where("given_by", "=", address)
    .where("ended_at", "is", null)
    .where("until", ">", db.clock.text())
    .execute();
  return given.map(({ id }) => id);
}

/** Keeps one waiver. */
export async function keepWaiver(
  db: Tx,
  actor: string,
  { shareId, rule, reason, until }: { shareId: string; rule: RuleId; reason: string; until: string },
): Promise<void> {
  await db
    .insertInto("waiver")
    .values({
      share_id: shareId,
      rule,
      reason,
      until,
      given_by: actor,
      given_at: db.clock.text(),
      ended_at: null,
      warned_at: null,
      over_at: null,
    })
    .execute();
}

/** How long before a waiver's end its author is told. */
const WARNED_BEFORE_S = 7 * DAY;

/**
 * Puts down in the ledger what waivers have ended, and writes to those who gave the ones that are about to: one
 * letter for all of somebody's.
 */
export async function endWaivers(db: Db): Promise<void> {
  const now = db.clock.text();
  await writing(db, async (within) => {
    const held = () => within.selectFrom("waiver").where("ended_at", "is", null);
    const over = await held().selectAll().where("until", "<=", now).where("over_at", "is", null).execute();
    for (const { id, share_id, rule } of over) {
      await within.updateTable("waiver").set({ over_at: now }).where("id", "=", id).execute();
      await appendWithin(within, "Tight Latch", "waiver-over", { id, shareId: share_id, rule });
    }
    const soon = rfc3339(within.clock.seconds() + WARNED_BEFORE_S);
    const ending = await held()
      .select(["id", "given_by"])
      .where("until", ">", now)
      .where("until", "<=", soon)
      .where("warned_at", "is", null)
      .execute();
    for (const { id } of ending)
      await within.updateTable("waiver").set({ warned_at: now }).where("id", "=", id).execute();
    for (const target of new Set(ending.map(({ given_by }) => given_by)))
      if (target.includes("@")) await writeLetter(within, "waiver-ends", target);
  });
}

/** Those that were given, and had not been ended, at an instant, or now. */
export async function waiversAt(db: Db, at: string | null): Promise<Waiver[]> {
  const waivers = await db
    .selectFrom("waiver")
    .select(["share_id", "rule", "until"])
    .where((eb) =>
      at === null
        ? eb("ended_at", "is", null)
        : eb.and([eb("given_at", "<=", at), eb.or([eb("ended_at", "is", null), eb("ended_at", ">", at)])]),
    )
    .execute();
  return waivers.map(({ share_id, rule, until }) => ({
    shareId: share_id,
    rule: rule as RuleId,
    until: seconds(until),
  }));
}

/** Waivers on some shares, or on all, the newest first, ended ones too. */
export async function waiversOn(db: Db, shareIds: readonly string[] | null, at?: number): Promise<WaiverView[]> {
  let query = db.selectFrom("waiver").selectAll().orderBy("id", "desc");
  if (shareIds) query = query.where("share_id", "in", shareIds);
  if (at !== undefined) query = query.where("given_at", "<=", rfc3339(at));
  const now = at ?? db.clock.seconds();
  return (await query.execute()).map(({ id, share_id, rule, reason, given_by, given_at, until, ended_at }) => {
    const ends = ended_at !== null && ended_at < until ? ended_at : until;
    const isOver = seconds(ends) <= now;
    return {
      id,
      shareId: share_id,
      rule: rule as WaiverView["rule"],
      reason,
      givenBy: given_by,
      givenAt: given_at,
      ends,
      isOver,
    };
  });
}

/** Waivers that hold and end by an instant, or ever; the next to end first. */
export async function waiversEnding(db: Db, by: string | null = null) {
  const waivers = await db
    .selectFrom("waiver")
    .select(["id", "share_id", "rule", "reason", "until"])
    .where("ended_at", "is", null)
    .where("until", ">", db.clock.text())
    .$if(by !== null, (query) => query.where("until", "<=", by!))
    .orderBy("until")
    .execute();
  return waivers.map(({ id, share_id, rule, reason, until }) => ({
    id,
    shareId: share_id,
    rule: rule as RuleId,
    reason,
    until,
  }));
}

/** Waivers that held at some time from one instant up to another, in the order in which they were given. */
export function waiversBetween(db: Reads, from: string, to: string) {
  return db
    .selectFrom("waiver")
    .select(["id", "share_id", "rule", "reason", "given_by", "given_at", "until", "ended_at"])
    .where("given_at", "<=", to)
    .where("until", ">=", from)
    .where((eb) => eb.or([eb("ended_at", "is", null), eb("ended_at", ">=", from)]))
    .orderBy("id")
    .execute();
}
