import { RULE_IDS, type RuleId, ruleOf, RULES } from "./list";
import type { Rule } from "./rule";
import { SEVERITIES, type Severity } from "./severity";
import { type Estate, sharesOn } from "../estate/estate";
import { inheritedFrom } from "../estate/tree";
import type { Judged, Judging, Moment } from "./judged";
import { type Level, riskOf } from "./risk";
import { isInScope, isItemInScope, type Scope } from "./scope";

/** One share or item that breaks one rule. */
export interface Finding {
  rule: RuleId;
  /** Id of the share, or of the item where the rule is about items. */
  subject: string;
  item: string;
  /** Null unless the subject is an outside share. */
  risk: Level | null;
}

/** The rules that run, each with all its parameters, its scope and its severity. A rule that isn't here is off. */
export type RuleSet = Partial<Record<RuleId, Record<string, unknown>>>;

/** The rules that run by default, with their default parameters. */
export const DEFAULT_RULES: RuleSet = Object.fromEntries(
  RULE_IDS.filter((id) => !ruleOf(id).isExtra).map((id) => [id, standardOf(id)]),
);

/** A rule's default parameters. */
export function standardOf(id: RuleId): Record<string, unknown> {
  return ruleOf(id).parameters.parse({});
}

/**
 * Reads a rules file: an object from rule id to parameters.
 * @throws {Error} naming the rule and the parameter that is unknown or out of range
 */
export function readRules(value: unknown): RuleSet {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    throw new Error("rules: must be an object from rule id to its parameters");
  const rules: RuleSet = {};
  for (const [id, given] of Object.entries(value)) {
    if (!Object.hasOwn(RULES, id)) throw new Error(`rules: unknown rule ${id}; known are ${RULE_IDS.join(", ")}`);
    const parsed = ruleOf(id as RuleId).parameters.safeParse(given);
    if (!parsed.success) {
      const issue = parsed.error.issues[0];
      throw new Error(`rules: ${[id, ...issue.path].join(".")}: ${issue.message}`);
    }
    rules[id as RuleId] = parsed.data;
  }
  return rules;
}

/** Every finding at the instant judged, sorted by rule, then subject. */
export function findings(judging: Judging, rules: RuleSet = DEFAULT_RULES): Finding[] {
  const found = (Object.keys(rules) as RuleId[]).sort().flatMap((id) => findingsOf(id, judging, rules[id]!));
  return found.sort((a, b) => compare(a.rule, b.rule) || compare(a.subject, b.subject));
}

/** Sorts rules by how much they matter, the most first; otherwise in the order in which they are shown. */
export function bySeverity(rules: RuleSet): (a: RuleId, b: RuleId) => number {
  const weight = (id: RuleId) => SEVERITIES.indexOf((rules[id]?.severity ?? ruleOf(id).severity) as Severity);
  return (a, b) => weight(b) - weight(a) || RULE_IDS.indexOf(a) - RULE_IDS.indexOf(b);
}

/** The rules on items that the item at a position breaks: they look only at the shares that reach it. */
export function brokenByItem(moment: Moment, position: number, rules: RuleSet): RuleId[] {
  const { estate } = moment;
  const reaching = inheritedFrom(estate.tree, position).flatMap((at) => sharesOn(estate, at));
  const slots = reaching.map(({ slot }) => slot);
  return RULE_IDS.filter((id) => {
    const definition = ruleOf(id);
    return (
      rules[id] &&
      isPositionMeant(position, estate, rules[id]) &&
      definition.items?.(moment, slots, rules[id]).includes(position)
    );
  });
}

/** The rules that one share breaks, in the order of the catalogue. */
export function brokenBy(judged: Judged, moment: Moment, rules: RuleSet): RuleId[] {
  return rulesIn(brokenBits(judged, moment, ruleChecks(rules))).slice();
}

/** A rule about shares made ready to check very many: with its bit and its parameters. */
interface RuleCheck {
  bit: number;
  breaks: NonNullable<Rule["breaks"]>;
  parameters: Record<string, unknown>;
  scope: Scope | undefined;
}

/** The rules about shares that run, ready to check with. */
export function ruleChecks(rules: RuleSet): readonly RuleCheck[] {
  return RULE_IDS.flatMap((id, index) => {
    const { breaks } = ruleOf(id);
    const parameters = rules[id];
    if (!breaks || !parameters) return [];
    return [{ bit: 1 << index, breaks, parameters, scope: parameters.scope as Scope | undefined }];
  });
}

/** A bit for each of the rules that a share breaks, by its place in the catalogue. */
export function brokenBits(judged: Judged, moment: Moment, checks: readonly RuleCheck[]): number {
  let bits = 0;
  for (const { bit, breaks, parameters, scope } of checks)
    if (breaks(judged, moment, parameters) && (!scope || isInScope(scope, judged, moment.estate))) bits |= bit;
  return bits;
}

/** Very many shares break few different sets of rules. A set is one number: up to 32 rules. */
const knownRules = new Map<number, readonly RuleId[]>();

/** The rules that have their bits in a number. */
export function rulesIn(bits: number): readonly RuleId[] {
  let rules = knownRules.get(bits);
  if (!rules) knownRules.set(bits, (rules = RULE_IDS.filter((_, index) => (bits & (1 << index)) !== 0)));
  return rules;
}

/** Whether a share breaks a rule with these parameters and scope. */
export function isBroken(rule: RuleId, judged: Judged, moment: Moment, parameters: Record<string, unknown>): boolean {
  const definition = ruleOf(rule);
  const scope = parameters.scope as Scope | undefined;
  if (!definition.breaks?.(judged, moment, parameters)) return false;
  return !scope || isInScope(scope, judged, moment.estate);
}

function isPositionMeant(position: number, estate: Estate, { scope }: Record<string, unknown>): boolean {
  return !scope || isItemInScope(scope as Scope, position, estate);
}

/** Positions of the items that break a rule on items. */
export function itemsBreaking(rule: RuleId, judging: Judging, parameters: Record<string, unknown>): number[] {
  const { moment } = judging;
  const positions = ruleOf(rule).items?.(moment, everySlot(moment.estate), parameters) ?? [];
  return parameters.scope ? positions.filter((at) => isPositionMeant(at, moment.estate, parameters)) : positions;
}

function everySlot({ shares }: Estate): Uint32Array {
  const slots = new Uint32Array(shares.count);
  for (let slot = 0; slot < slots.length; slot++) slots[slot] = slot;
  return slots;
}

/** What breaks one rule, in no particular order. */
export function findingsOf(rule: RuleId, judging: Judging, parameters: Record<string, unknown>): Finding[] {
  const { estate, t } = judging.moment;
  const positions = itemsBreaking(rule, judging, parameters);
  const items = positions.map((position): Finding => {
    const item = estate.tree.idAt(position);
    return { rule, subject: item, item, risk: null };
  });
  const shares = judging.shares
    .filter((one) => isBroken(rule, one, judging.moment, parameters))
    .map(({ share, outside }): Finding => {
      const risk = outside ? riskOf(estate, share, t) : null;
      return { rule, subject: share.id, item: share.itemId, risk };
    });
  return [...items, ...shares];
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
