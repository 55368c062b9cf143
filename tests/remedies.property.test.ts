import fc from "fast-check";
import type { Change } from "@/core/changes/change";
import { buildEstate, type Estate } from "@/core/estate/estate";
import { type EstateRecord, LABELS, recordKey, type ShareRecord } from "@/core/estate/records";
import { DEFAULT_RULES, findings, readRules } from "@/core/rules/findings";
import { judge, judgeShare } from "@/core/rules/judging";
import { firstRemedy, itemRemedies, type Remedy, remediesFor } from "@/core/rules/remedies";
import { RULE_IDS, type RuleId } from "@/core/rules/list";
import { tryRule } from "@/core/rules/trial";
import { Register } from "@/core/register/register";
import { RULES } from "@/core/rules/list";
import { changedShare } from "@/standins/store/changes";
import { normaliseAddress } from "@/core/estate/address";
import { DAY, seconds } from "@/core/time/instant";
import { ALL_RULES, estatesOfAnyStore } from "./anyStore";
import { NOW, T } from "./records";

/** The records as a stand-in store would leave them; and when we end a share ourselves. */
function carriedOut(records: EstateRecord[], changes: readonly Change[]): Estate {
  const now = new Map(records.map((record) => [record.type + recordKey(record), record]));
  const orders = new Map<string, number>();
  const of = records.find((record) => record.type === "store")!;
  for (const change of changes) {
    if (change.action === "order-revoke") orders.set(change.shareId, seconds(change.on));
    else if (change.action === "leave-group") {
      const who = normaliseAddress(change.address);
      for (const [key, record] of now)
        if (record.type === "member" && record.groupId === change.groupId && idsAt(records, who).has(record.memberId))
          now.delete(key);
    } else if (change.action === "set-start" || change.action === "set-words" || change.action === "move-intake")
      throw new Error("No remedy is about an intake link’s words, start or place.");
    else if (change.action === "put-back" || change.action === "remake-link" || change.action === "drop-order")
      throw new Error("No remedy takes anything back.");
    else if ("shareId" in change) {
      const before = [...now.values()].find(
        (record): record is ShareRecord =>
          (record.type === "link" || record.type === "grant") && record.id === change.shareId,
      )!;
      const told = change.action === "set-password" ? { ...change, password: "a passphrase of twenty or so" } : change;
      const after = changedShare(of, before, told)!;
      // Revoked now, by the clock of these tests.
      now.set(after.type + after.id, change.action === "revoke" ? { ...after, revokedAt: NOW } : after);
    }
  }
  const estate = buildEstate(now.values());
  estate.shares.takeOrders(orders);
  return estate;
}

function idsAt(records: EstateRecord[], address: string): Set<string> {
  return new Set(
    records.flatMap((one) => (one.type === "person" && normaliseAddress(one.email) === address ? [one.id] : [])),
  );
}

function remediesOf(estate: Estate, rule: RuleId, subject: string): Remedy[] {
  const share = estate.share(subject);
  return share
    ? remediesFor(rule, estate, share, T, ALL_RULES)
    : itemRemedies(rule, estate, estate.tree.position(subject)!, T, ALL_RULES);
}

test("a finding's first remedy ends it, whatever its store can do", () =>
  fc.assert(
    fc.property(estatesOfAnyStore, (records) => {
      const estate = buildEstate(records);
      for (const { rule, subject } of findings(judge(estate, T), ALL_RULES)) {
        const remedy = firstRemedy(remediesOf(estate, rule, subject));
        if (!remedy) continue;
        const after = findings(judge(carriedOut(records, remedy.changes), T), ALL_RULES);
        expect({ remedy, left: after.filter((one) => one.rule === rule && one.subject === subject) }).toEqual({
          remedy,
          left: [],
        });
      }
    }),
    { numRuns: 400 },
  ));

test("a share's finding always has a remedy, and one that can't be done says why", () =>
  fc.assert(
    fc.property(estatesOfAnyStore, (records) => {
      const estate = buildEstate(records);
      for (const { rule, subject } of findings(judge(estate, T), ALL_RULES)) {
        const remedies = remediesOf(estate, rule, subject);
        if (estate.share(subject)) expect(firstRemedy(remedies)).toBeDefined();
        for (const { why, changes } of remedies) expect(why === null).toBe(changes.length > 0);
      }
    }),
  ));

/** Every parameter that can be turned, with a looser and a tighter value. */
const TURNS: [RuleId, object, object][] = [
  ["open-expiry", { maxDays: 30 }, { maxDays: 7 }],
  ["outside-expiry", { maxDays: 180 }, { maxDays: 30 }],
  ["intake-window", { maxDays: 30 }, { maxDays: 2.5 }],
  ["dormant", { days: 101 }, { days: 20 }],
  ["never-used", { days: 14 }, { days: 1 }],
  ["open-password", { labels: ["restricted"] }, { labels: ["restricted", "internal"] }],
  ["open-forbidden", { labels: [] }, { labels: ["confidential"] }],
  ["outside-download", { labels: ["confidential"] }, { labels: [...LABELS] }],
  ["outsider-in-group", { labels: ["restricted"] }, { labels: [...LABELS] }],
  ["house-listed", { labels: ["restricted"] }, { labels: [...LABELS] }],
  ["link-pile", { max: 3 }, { max: 1 }],
  ["weak-password", { minLength: 9 }, { minLength: 21 }],
  ["open-many", { maxFiles: 5 }, { maxFiles: 1 }],
  ["open-expiry", { scope: { labels: ["restricted"] } }, {}],
];

test("tightening a parameter, or widening a scope, never removes a finding", () =>
  fc.assert(
    fc.property(estatesOfAnyStore, fc.constantFrom(...TURNS), (records, [rule, loose, tight]) => {
      const judging = judge(buildEstate(records), T);
      const subjects = (given: object) => findings(judging, readRules({ [rule]: given })).map(({ subject }) => subject);
      expect(subjects(tight)).toEqual(expect.arrayContaining(subjects(loose)));
    }),
  ));

test("a waiver changes no other finding", () =>
  fc.assert(
    fc.property(estatesOfAnyStore, fc.nat(), (records, n) => {
      const rulesOf = (register: Register) =>
        new Map([...register.listedSlots].map((slot) => [slot, register.rulesOf(slot, "rules")]));
      const plain = new Register(buildEstate(records), ALL_RULES);
      plain.at(T);
      const found = [...rulesOf(plain)].flatMap(([slot, rules]) => rules.map((rule) => ({ slot, rule })));
      if (found.length === 0) return;
      const { slot, rule } = found[n % found.length];
      const waived = new Register(plain.estate, ALL_RULES);
      waived.takeWaivers([{ shareId: plain.estate.shares.idOf(slot), rule, until: T + DAY }]);
      waived.at(T);
      const expected = rulesOf(plain);
      expected.set(
        slot,
        expected.get(slot)!.filter((one) => one !== rule),
      );
      expect(rulesOf(waived)).toEqual(expected);
      expect(waived.rulesOf(slot, "waived")).toEqual([rule]);
    }),
  ));

test("what a trial counts is what is found", () =>
  fc.assert(
    fc.property(estatesOfAnyStore, fc.constantFrom(...RULE_IDS), (records, rule) => {
      const judging = judge(buildEstate(records), T);
      const trial = tryRule(rule, ALL_RULES[rule]!, judging);
      const found = findings(judging, { [rule]: ALL_RULES[rule] });
      const ofItems = RULES[rule].items !== undefined;
      expect(ofItems ? trial.items : trial.shares).toBe(found.length);
      const fallen = trial.bars.reduce((sum, bar) => sum + bar.falls, 0);
      const unplaced = found.filter(({ subject }) => !ofItems && judgedWorst(judging.moment.estate, subject) === null);
      if (!ofItems) expect(fallen + (trial.cut === null ? unplaced.length : 0)).toBe(trial.shares);
    }),
  ));

function judgedWorst(estate: Estate, id: string) {
  return judgeShare({ estate, t: T }, estate.share(id)!).worst;
}

test("the rules that run where nobody has said otherwise are those of the model, without the extra ones", () => {
  expect(Object.keys(DEFAULT_RULES)).toHaveLength(23);
});
