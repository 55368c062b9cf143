import type { Change } from "@/core/changes/change";
import { changeWords } from "@/core/changes/changeWords";
import type { LedgerBody } from "@/core/ledger/kinds";
import { within } from "@/core/text/text";
import { dayWords } from "@/core/text/words";
import type { Answer, AnsweredStep, AskedPage, AskedShare } from "@/core/rules/answer";
import type { Receipt } from "@/core/preview/docketView";
import { isOfOpenLinks } from "@/core/rules/list";
import type { Breach } from "@/core/rules/demand";
import { firstRemedy } from "@/core/rules/remedies";
import { RULES } from "@/core/rules/list";
import { DAY, seconds } from "@/core/time/instant";
import { Problem } from "../platform/problem";
import { type Db, type Tx, writing } from "../platform/db/open";
import { planned } from "../dockets/changes";
import { run } from "../dockets/executor";
import { beginApplying, openDocket } from "../dockets/lifecycle";
import { showOnce } from "../dockets/passphrases";
import { receiptsOf } from "../dockets/receipts";
import { docketOfChange } from "../dockets/standing";
import { appendWithin } from "../records/ledger/ledger";
import type { Demand } from "./demands";
import { keepWaiver } from "./waivers";
import type { Asking } from "../engine/client";
import type { Carrying } from "../dockets/carrying";
import type { Platform } from "../platform/platform";

/** The longest that an owner can keep a share; PCI DSS v4 7.2.4 requires a review every six months. */
const LONGEST_KEPT_S = 180 * DAY;

/** What a letter asks, for whoever holds its address. @throws {Problem} where there is no such letter */
export async function askedBy(app: Asking, letterId: number): Promise<AskedPage> {
  const demands = await demandsOf(app.db, letterId);
  const breaches = await breachesOf(app, demands);
  const shares: AskedShare[] = [];
  for (const subject of new Set(demands.map((one) => one.subject)))
    shares.push(
      await askedShare(
        app,
        demands.filter((one) => one.subject === subject),
        breaches.filter((one) => one.subject === subject),
      ),
    );
  return { owner: demands[0].owner, shares, latest: app.clock.seconds() + LONGEST_KEPT_S };
}

async function demandsOf(db: Db, letterId: number): Promise<Demand[]> {
  const demands = await db.selectFrom("demand").selectAll().where("letter_id", "=", letterId).orderBy("id").execute();
  if (demands.length === 0) throw new Problem("unknown", "There is nothing left to answer at this address.");
  return demands;
}

async function breachesOf(app: Asking, demands: readonly Demand[]): Promise<Breach[]> {
  const rules = [...new Set(demands.map(({ rule }) => rule))];
  const found = await app.engine.ask("breaches", { rules, subjects: demands.map(({ subject }) => subject) });
  return found.filter((one) => demands.some((d) => d.rule === one.rule && d.subject === one.subject));
}

async function askedShare(app: Asking, demands: readonly Demand[], breaches: readonly Breach[]): Promise<AskedShare> {
  const [{ subject, due_at }] = demands;
  const open = demands.filter(({ state }) => state === "asked");
  const [breach] = breaches;
  const receipts = await receiptsAbout(app.db, demands[0]);
  const known = breach ?? (await goneShare(app, subject, receipts[0]));
  const changes = tightening(breaches);
  return {
    subject,
    itemName: known.itemName,
    where: [known.storeName, ...known.place].join(" / "),
    sentence: known.sentence,
    audience: known.audience,
    lastUsed: known.lastUsed,
    reasons: breaches.map(({ rule, reason }) => ({ rule, title: RULES[rule].title, reason })),
    tighten: changes && changes.map(changeWords),
    canBeNamed: namingEnds(breaches),
    canEnd: breaches.some(({ shareId }) => shareId !== null),
    due: due_at!,
    answered: open.length > 0 && breaches.length > 0 ? null : outcomeWords(demands),
    steps: receipts.map((receipt) => stepOf(receipt, demands[0])),
  };
}

/** What is known of a share that breaks none of the rules any more: of one that has ended, as it was. */
async function goneShare(app: Asking, subject: string, receipt: Receipt | undefined) {
  const [row] = await app.engine.ask("rows", { ids: [subject] });
  const record = row ? null : await app.engine.ask("record", { id: subject });
  const usedBefore = record?.lastUsedAt ? seconds(record.lastUsedAt) : null;
  return {
    itemName: row?.itemName ?? receipt?.itemName ?? "A share that no longer exists",
    storeName: row?.storeName ?? "",
    place: row?.place ?? [],
    sentence: "",
    audience: row?.audience ?? receipt?.audience ?? "",
    lastUsed: row ? row.lastUsed : usedBefore,
  };
}

function outcomeWords(demands: readonly Demand[]): string {
  const [{ state, answer }] = demands;
  switch (state) {
    case "kept":
    case "handled":
      return answer ?? "Answered.";
    case "docketed":
      return "The time to answer is over; it is being tightened or ended.";
    default:
      return "It no longer needs an answer.";
  }
}

/** The mildest changes that fix everything wrong with a share; null if only ending it does, or it can't be done from here. */
function tightening(breaches: readonly Breach[]): Change[] | null {
  if (breaches.length === 0) return null;
  const changes: Change[] = [];
  for (const { remedies } of breaches) {
    const remedy = firstRemedy(remedies);
    if (!remedy) return null;
    changes.push(...remedy.changes);
  }
  const isEnd = changes.some(({ action }) => action === "revoke");
  return isEnd ? null : changes.filter((one, i) => changes.findIndex((other) => same(one, other)) === i);
}

/** Findings that depend on a link being open end once it is for named people. */
function namingEnds(breaches: readonly Breach[]): boolean {
  const naming = ({ remedies }: Breach) => remedies.some(({ asks, why }) => asks === "addresses" && why === null);
  return breaches.some(naming) && breaches.every((one) => isOfOpenLinks(one.rule) || naming(one));
}

function same(a: Change, b: Change): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

/** What a docket does with a share of theirs. */
async function receiptsAbout(db: Db, { docket_id, subject }: Demand): Promise<Receipt[]> {
  const receipts = docket_id === null ? [] : await receiptsOf(db, docket_id);
  return receipts.filter(({ change }) => "shareId" in change && change.shareId === subject);
}

/** Only a passphrase that their own answer set is theirs to hand over. */
function stepOf({ change, state, answer, passphrase }: Receipt, demand: Demand): AnsweredStep {
  return { words: changeWords(change), state, answer, passphrase: demand.state === "handled" ? passphrase : null };
}

/** Takes an owner's answer about one share of theirs. @throws {Problem} where it isn't theirs to answer any more */
export async function answer(app: Carrying, letterId: number, given: Answer): Promise<void> {
  const all = await demandsOf(app.db, letterId);
  const demands = all.filter(({ subject, state }) => subject === given.subject && state === "asked");
  if (demands.length === 0) throw new Problem("conflict", "This share no longer needs an answer.");
  if (given.decision === "keep") await keep(app, demands, given);
  else await change(app, demands, given);
}

async function keep(app: Asking, demands: readonly Demand[], { reason, until }: Extract<Answer, { decision: "keep" }>) {
  const now = app.clock.seconds();
  if (seconds(until) <= now) throw new Problem("bad", "Until: choose a day in the future.");
  if (seconds(until) > now + LONGEST_KEPT_S)
    throw new Problem("bad", `Until: ${dayWords(now + LONGEST_KEPT_S)} at the latest; you can keep it again then.`);
  const [{ owner }] = demands;
  await writing(app.db, async (within) => {
    for (const { rule, subject } of demands) await keepWaiver(within, owner, { shareId: subject, rule, reason, until });
    await settle(within, demands, "kept", `Kept until ${dayWords(seconds(until))}: ${reason}`, null);
    await note(within, demands, { decision: "keep", reason, until });
  });
  await app.engine.ask("refresh", {});
}

type Changing = Exclude<Answer, { decision: "keep" }>;
const DECIDED: Record<Changing["decision"], string> = {
  tighten: "Tightened",
  named: "Limited to named people",
  end: "Ended",
};

async function change(app: Carrying, demands: readonly Demand[], given: Changing): Promise<void> {
  const { decision } = given;
  const [{ owner }] = demands;
  const changes = changesFor(given, await breachesOf(app, demands));
  if (changes === null)
    throw new Problem("conflict", "That can’t be done with this share. Keep it with a reason, or end it.");
  const plans = (await planned(app, changes)).filter((plan) => plan !== null);
  if (plans.flat().length === 0) throw new Problem("conflict", "It is already like that. Nothing was changed.");
  const words = DECIDED[decision];
  const docketId = await writing(app.db, async (inside) => {
    const id = await openDocket(inside, {
      madeBy: owner,
      origin: "owner",
      words: `${words} by ${owner}, who was asked`,
      plans,
    });
    const done = plans.flat().map((one) => within(changeWords(one.change)));
    const outcome = decision === "end" ? "You ended this share." : `${words}: ${done.join(", ")}.`;
    await settle(inside, demands, "handled", outcome, id);
    await note(inside, demands, { decision });
    return (await beginApplying(inside, id, owner)) ? id : null;
  });
  if (docketId) run(app, docketId);
}

/** Null unless the answer ends the finding. */
function changesFor(given: Changing, breaches: readonly Breach[]): Change[] | null {
  const { subject } = given;
  switch (given.decision) {
    case "tighten":
      return tightening(breaches);
    case "named":
      return namingEnds(breaches) ? [{ action: "narrow", shareId: subject, addresses: given.addresses }] : null;
    case "end":
      return breaches.some(({ shareId }) => shareId !== null) ? [{ action: "revoke", shareId: subject }] : null;
  }
}

async function settle(
  db: Tx,
  demands: readonly Demand[],
  state: "kept" | "handled",
  words: string,
  docket: string | null,
) {
  const ids = demands.map(({ id }) => id);
  const { numUpdatedRows } = await db
    .updateTable("demand")
    .set({ state, answer: words, answered_at: db.clock.seconds(), docket_id: docket })
    .where("id", "in", ids)
    .where("state", "=", "asked")
    .executeTakeFirst();
  if (Number(numUpdatedRows) < ids.length) throw new Problem("conflict", "It has just been answered.");
}

function note(
  db: Tx,
  demands: readonly Demand[],
  decided: Pick<LedgerBody<"demand-answered">, "decision" | "reason" | "until">,
): Promise<void> {
  const [{ owner, subject }] = demands;
  return appendWithin(db, owner, "demand-answered", { subject, rules: demands.map(({ rule }) => rule), ...decided });
}

/** Shows an owner a passphrase that their own answer set, once. */
export async function showToOwner(app: Platform, letterId: number, changeId: string): Promise<string> {
  const demands = await demandsOf(app.db, letterId);
  const dockets = demands.map(({ docket_id }) => docket_id);
  const docket = await docketOfChange(app.db, changeId);
  if (!docket || docket.origin !== "owner" || !dockets.includes(docket.id))
    throw new Problem("unknown", "You have no such passphrase.");
  return showOnce(app, changeId, demands[0].owner);
}
