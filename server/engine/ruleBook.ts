import { previewOf } from "@/core/preview/preview";
import { previewWords } from "@/core/preview/previewWords";
import type { Estate } from "@/core/estate/estate";
import { Share } from "@/core/estate/share";
import type { Register } from "@/core/register/register";
import { breachOf, itemBreachOf } from "@/core/rules/breaches";
import { RULES } from "@/core/rules/list";
import type { Breach } from "@/core/rules/demand";
import { brokenByItem, bySeverity, findingsOf, itemsBreaking, type RuleSet, rulesIn } from "@/core/rules/findings";
import type { Judging } from "@/core/rules/judged";
import { judge, momentOf } from "@/core/rules/judging";
import { mailsOf } from "@/core/rules/mails";
import type { RuleOutlook } from "@/core/rules/preview";
import { firstRemedy } from "@/core/rules/remedies";
import { RULE_IDS, type RuleId } from "@/core/rules/list";
import { Answerers, type Trial, tryRule } from "@/core/rules/trial";
import type { WaysIn } from "@/core/access/waysIn";
import type { Seconds } from "@/core/time/instant";

/** How many shares or items break a rule without a waiver, and how many with one. */
export interface RuleCounts {
  falls: number;
  waived: number;
}

/** How many items break a rule, and which: 1 by position. */
interface ItemsFound {
  count: number;
  isFound: Uint8Array;
}

/** How long a judgement holds unless a share's facts change: rules count in days. */
const JUDGED_HOLDS_S = 600;
/** The most changes that are previewed one by one; more are only counted. */
const MOST_PREVIEWED = 2_000;

/** Answers about the rules: what they find, what they would find otherwise, and what it takes to end that. */
export class RuleBook {
  private judged: { version: number; judging: Judging; answerers: Answerers } | undefined;

  private items: { judging: Judging; rules: RuleSet; found: Map<RuleId, ItemsFound> } | undefined;

  constructor(
    private readonly estate: Estate,
    private readonly rules: () => RuleSet,
  ) {}

  /** What a rule with other parameters would find; shares are judged once, however often the parameters change. */
  try(register: Register, rule: RuleId, parameters: Record<string, unknown>, t: Seconds): Trial {
    const { judging, answerers } = this.judgement(register, t);
    return tryRule(rule, parameters, judging, answerers);
  }

  private judgedAt(register: Register, t: Seconds): Judging {
    return this.judgement(register, t).judging;
  }

  private judgement({ version }: Register, t: Seconds) {
    const { judged } = this;
    if (judged && judged.version === version && Math.abs(judged.judging.moment.t - t) < JUDGED_HOLDS_S) return judged;
    return (this.judged = { version, judging: judge(this.estate, t), answerers: new Answerers(this.estate) });
  }

  /** For every rule; one that is off has no findings. */
  counts(register: Register, t: Seconds): Record<RuleId, RuleCounts> {
    const counts = countsOfShares(register);
    const { tree } = this.estate;
    for (const [rule, { count, isFound }] of this.itemsFound(register, t)) {
      const positions = register.waivedFor(rule, t).map((id) => tree.position(id));
      const waived = positions.filter((at) => at !== undefined && isFound[at] === 1).length;
      counts[rule] = { falls: count - waived, waived };
    }
    return counts;
  }

  /** The items that break each rule on items. They are found once for as long as a judgement holds. */
  private itemsFound(register: Register, t: Seconds): Map<RuleId, ItemsFound> {
    const rules = this.rules();
    const judging = this.judgedAt(register, t);
    if (this.items?.judging === judging && this.items.rules === rules) return this.items.found;
    const found = new Map<RuleId, ItemsFound>();
    for (const rule of RULE_IDS) {
      if (!RULES[rule].items || !rules[rule]) continue;
      const positions = itemsBreaking(rule, judging, rules[rule]);
      const isFound = new Uint8Array(this.estate.tree.length);
      for (const position of positions) isFound[position] = 1;
      found.set(rule, { count: positions.length, isFound });
    }
    this.items = { judging, rules, found };
    return found;
  }

  /** What breaks some rules without a waiver; only among given subjects, if any. */
  breaches(register: Register, rules: readonly RuleId[], subjects: readonly string[] | null, t: Seconds): Breach[] {
    const meant = subjects && new Set(subjects);
    const isMeant = (subject: string) => meant?.has(subject) ?? true;
    const inOrder = [...rules].sort(bySeverity(this.rules()));
    return inOrder.flatMap((rule) => this.breachesOf(register, rule, isMeant, t));
  }

  private breachesOf(register: Register, rule: RuleId, isMeant: (subject: string) => boolean, t: Seconds): Breach[] {
    const { estate } = this;
    const rules = this.rules();
    if (!rules[rule]) return [];
    if (RULES[rule].items)
      return findingsOf(rule, this.judgedAt(register, t), rules[rule])
        .filter(({ subject }) => isMeant(subject) && !register.isWaived(subject, rule, t))
        .map(({ subject }) => itemBreachOf(rule, estate, estate.tree.position(subject)!, t, rules));
    return this.slotsOf(register, rule)
      .filter((slot) => isMeant(estate.shares.idOf(slot)))
      .map((slot) => breachOf(rule, estate, new Share(estate, slot), t, rules));
  }

  private slotsOf(register: Register, rule: RuleId): number[] {
    return [...register.listedSlots].filter((slot) => register.rulesOf(slot, "rules").includes(rule));
  }

  /** The effect of ending every finding of a rule with these parameters, except waived ones. */
  preview(
    register: Register,
    rule: RuleId,
    parameters: Record<string, unknown>,
    waysIn: WaysIn,
    t: Seconds,
  ): RuleOutlook {
    const { estate } = this;
    const rules = { ...this.rules(), [rule]: parameters };
    const found = findingsOf(rule, this.judgedAt(register, t), parameters);
    const subjects = found.filter(({ subject }) => !register.isWaived(subject, rule, t));
    const breaches = subjects.map(({ subject }) => {
      const share = estate.share(subject);
      return share
        ? breachOf(rule, estate, share, t, rules)
        : itemBreachOf(rule, estate, estate.tree.position(subject)!, t, rules);
    });
    const remedies = breaches.map((breach) => firstRemedy(breach.remedies)?.changes ?? []);
    const done = remedies.filter((changes) => changes.length > 0);
    const looked = done.slice(0, MOST_PREVIEWED);
    const preview = previewOf(estate, looked.flat(), t, waysIn);
    const losers = preview.people.filter(({ loses }) => loses.count > 0);
    const insiders = losers.filter(({ insider }) => insider).length;
    return {
      words: previewWords(preview),
      remedied: done.length,
      previewed: looked.length,
      unremedied: remedies.length - done.length,
      insiders,
      outsiders: losers.length - insiders,
      mails: mailsOf(breaches),
    };
  }

  /** Which of some rules each share or item breaks without a waiver. */
  broken(
    register: Register,
    ids: readonly string[],
    among: readonly RuleId[] | null,
    t: Seconds,
  ): { shareId: string; rule: RuleId }[] {
    const isAmong = (rule: RuleId) => among?.includes(rule) ?? true;
    return ids.flatMap((shareId) =>
      this.brokenBy(register, shareId, t)
        .filter(isAmong)
        .map((rule) => ({ shareId, rule })),
    );
  }

  private brokenBy(register: Register, id: string, t: Seconds): readonly RuleId[] {
    const slot = this.estate.shares.find(id);
    if (slot !== undefined) return register.isIn[slot] === 1 ? register.rulesOf(slot, "rules") : [];
    const position = this.estate.tree.position(id);
    return position === undefined ? [] : this.brokenByItem(register, position, t);
  }

  /** The rules on items that an item breaks without a waiver. */
  brokenByItem(register: Register, position: number, t: Seconds): RuleId[] {
    const id = this.estate.tree.idAt(position);
    const broken = brokenByItem(momentOf(this.estate, t), position, this.rules());
    return broken.filter((rule) => !register.isWaived(id, rule, t));
  }
}

/** How many shares break each rule, counted by what many of them have in common. */
function countsOfShares({ listedSlots, profile, profiles }: Register): Record<RuleId, RuleCounts> {
  const times = new Uint32Array(profiles.count);
  for (const slot of listedSlots) times[profile[slot]]++;
  const counts = Object.fromEntries(RULE_IDS.map((id) => [id, { falls: 0, waived: 0 }])) as Record<RuleId, RuleCounts>;
  for (const [number, many] of times.entries()) {
    if (many === 0) continue;
    for (const rule of rulesIn(profiles.columns.rules[number])) counts[rule].falls += many;
    for (const rule of rulesIn(profiles.columns.waived[number])) counts[rule].waived += many;
  }
  return counts;
}
