import type { Selectable } from "kysely";
import type { Breach } from "@/core/rules/demand";
import { RULE_IDS, RULES, type RuleId } from "@/core/rules/list";
import type { RuleSettings } from "@/core/rules/setting";
import { DAY, type Seconds } from "@/core/time/instant";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import type { DemandTable } from "../platform/db/schema";
import { writeLetter, writtenTo } from "../messages/letters";
import { ruleSettings } from "./settings";
import type { Asking } from "../engine/client";

export type Demand = Selectable<DemandTable>;
const OPEN = ["found", "asked"] as const;
/** An owner gets one letter within this time, with everything to be asked by then; their grace begins with it. */
const ONE_LETTER_S = DAY;

/** Demands that nobody has answered yet. */
export function openDemands(db: Reads): Promise<Demand[]> {
  return db.selectFrom("demand").selectAll().where("state", "in", OPEN).orderBy("id").execute();
}

/**
 * Brings the demands to what rules that ask or enforce find now: new ones are put down, those that are so no more are
 * closed, and owners who may be written to are.
 * @returns what is broken now, by rule and subject
 */
export async function bringDemands(app: Asking): Promise<Map<string, Breach>> {
  const settings = await ruleSettings(app.db);
  const rules = RULE_IDS.filter((id) => settings[id].isOn && settings[id].mode !== "observe");
  const found = rules.length === 0 ? [] : await app.engine.ask("breaches", { rules, subjects: null });
  const breaches = new Map(found.map((breach) => [keyOf(breach.rule, breach.subject), breach]));
  await writing(app.db, async (within) => {
    const open = await openDemands(within);
    await close(
      within,
      open.filter(({ rule, subject }) => !breaches.has(keyOf(rule, subject))),
    );
    const known = new Set(open.map(({ rule, subject }) => keyOf(rule, subject)));
    for (const [key, breach] of breaches) if (!known.has(key)) await putDown(within, breach, settings);
    await writeToOwners(within, settings);
  });
  return breaches;
}

export function keyOf(rule: RuleId, subject: string): string {
  return `${rule}\n${subject}`;
}

async function close(db: Reads, demands: readonly Demand[]) {
  for (const { id } of demands)
    await db
      .updateTable("demand")
      .set({ state: "gone", answered_at: db.clock.seconds() })
      .where("id", "=", id)
      .execute();
}

/** Where nobody answers for it any more, nobody can reply, but the days of grace run all the same. */
async function putDown(db: Tx, { rule, subject, owner }: Breach, settings: RuleSettings) {
  const now = db.clock.seconds();
  const begun = owner === null ? { state: "asked" as const, ...graceFrom(now, rule, settings) } : NOT_BEGUN;
  await db
    .insertInto("demand")
    .values({
      rule,
      subject,
      owner: owner ?? "",
      found_at: now,
      ...begun,
      letter_id: null,
      docket_id: null,
      answered_at: null,
      answer: null,
    })
    .execute();
}

const NOT_BEGUN = { state: "found" as const, begun_at: null, due_at: null };

function graceFrom(begun: Seconds, rule: RuleId, settings: RuleSettings) {
  return { begun_at: begun, due_at: begun + settings[rule].graceDays * DAY };
}

/** One letter to each owner of whom something new is wanted, unless they had one within a day. Then their grace begins. */
async function writeToOwners(db: Tx, settings: RuleSettings) {
  const now = db.clock.seconds();
  const found = await db.selectFrom("demand").selectAll().where("state", "=", "found").orderBy("id").execute();
  const fresh = await withinPilots(db, settings, found);
  const written = await writtenTo(db, now - ONE_LETTER_S);
  const owners = new Set(fresh.map(({ owner }) => owner).filter((owner) => !written.has(owner)));
  for (const owner of owners) {
    const id = await writeLetter(db, "ask", owner);
    for (const demand of fresh.filter((one) => one.owner === owner))
      await db
        .updateTable("demand")
        .set({ state: "asked", letter_id: id, ...graceFrom(now, demand.rule, settings) })
        .where("id", "=", demand.id)
        .execute();
  }
}

/** Where only some owners are asked for now: the demands on those already asked, and on the next ones. */
async function withinPilots(db: Reads, settings: RuleSettings, found: readonly Demand[]): Promise<Demand[]> {
  const asked = await db
    .selectFrom("demand")
    .select(["rule", "owner"])
    .distinct()
    .where("letter_id", "is not", null)
    .execute();
  return found.filter(({ rule, owner }) => {
    const { pilot } = settings[rule];
    if (pilot === undefined) return true;
    const already = new Set(asked.filter((one) => one.rule === rule).map((one) => one.owner));
    const next = new Set(found.filter((one) => one.rule === rule).map((one) => one.owner));
    return [...new Set([...already, ...next])].slice(0, pilot).includes(owner);
  });
}

/** How many demands are past their grace and not answered. */
export async function countOverdue(db: Db): Promise<number> {
  const { late } = await db
    .selectFrom("demand")
    .select((eb) => eb.fn.countAll<number>().as("late"))
    .where("state", "=", "asked")
    .where("due_at", "<=", db.clock.seconds())
    .executeTakeFirstOrThrow();
  return Number(late);
}

/** What owners were asked up to an instant and have not answered, share by share. */
export async function unansweredAt(db: Db, asked: Seconds) {
  const demands = await db
    .selectFrom("demand")
    .select(["id", "rule", "subject", "owner", "begun_at"])
    .where("state", "=", "asked")
    .where("owner", "!=", "")
    .where("begun_at", "<=", asked)
    .execute();
  return demands.map(({ id, rule, subject, owner, begun_at }) => {
    return { id, subject, owner, about: RULES[rule].title, at: begun_at! };
  });
}
