import { answererOf } from "../access/answerer";
import type { Share } from "../estate/share";
import type { Estate } from "../estate/estate";
import { isBroken, itemsBreaking } from "./findings";
import type { Judging } from "./judged";
import { isLookedAt, type RuleId } from "./list";
import { type Bar, barsOf, measureOf } from "./measures";
import { isInScope, type Scope, unknownInScope } from "./scope";

/** What a rule with such parameters would find. */
export interface Trial {
  title: string;
  bars: Bar[];
  /** Where the rule's threshold is, in bars from the left; null where it has none. */
  cut: number | null;
  /** How many shares it looks at; of those that break it, how many, whose they are, and for whom. */
  looksAt: number;
  shares: number;
  /** Where the rule is on items. */
  items: number;
  owners: number;
  outsiders: number;
  organisations: number;
  /** Parts of its scope that match nothing, and whether it looks at nothing at all. */
  problems: string[];
}

/** @param answerers kept from one trial to the next */
export function tryRule(
  rule: RuleId,
  parameters: Record<string, unknown>,
  judging: Judging,
  answerers = new Answerers(judging.moment.estate),
): Trial {
  const { moment } = judging;
  const measure = measureOf(rule);
  const { bars, barOf, width } = barsOf(measure, parameters);
  const scope = parameters.scope as Scope | undefined;
  const concerned = new Concerned(moment.estate, answerers);
  let looksAt = 0;
  for (const one of judging.shares) {
    const falls = isBroken(rule, one, moment, parameters);
    if (!falls && !(isLookedAt(rule, one, moment) && (!scope || isInScope(scope, one, moment.estate)))) continue;
    looksAt++;
    const bar = bars[barOf(one, moment)];
    if (bar) bar[falls ? "falls" : "stands"]++;
    if (falls) concerned.add(one.share);
  }
  const items = itemsBreaking(rule, judging, parameters).length;
  const cut = measure.figure && width ? (parameters[measure.figure.slot] as number) / width : null;
  const problems = scope ? unknownInScope(scope, moment.estate) : [];
  if (scope && problems.length === 0 && looksAt === 0) problems.push("The rule looks at nothing there.");
  return { title: measure.title, bars, cut, looksAt, items, problems, ...concerned.counts() };
}

/** Who answers for each share, by its slot, found once; -1 for nobody. */
export class Answerers {
  private readonly known: Int32Array;

  constructor(private readonly estate: Estate) {
    this.known = new Int32Array(estate.shares.count).fill(UNKNOWN);
  }

  of(share: Share): number {
    const known = this.known[share.slot];
    return known === UNKNOWN ? (this.known[share.slot] = answererOf(this.estate, share)?.person ?? NOBODY) : known;
  }
}
const UNKNOWN = -2;
const NOBODY = -1;

/** Whom some shares concern. */
class Concerned {
  private shares = 0;
  private readonly owners: Uint8Array;
  private readonly outsiders: Uint8Array;

  constructor(
    private readonly estate: Estate,
    private readonly answerers: Answerers,
  ) {
    this.owners = new Uint8Array(estate.people.length);
    this.outsiders = new Uint8Array(estate.people.length);
  }

  add(share: Share) {
    this.shares++;
    const answerer = this.answerers.of(share);
    if (answerer !== NOBODY) this.owners[answerer] = 1;
    for (const one of share.outsiders) this.outsiders[one] = 1;
  }

  counts() {
    const { shares, owners, outsiders } = this;
    const { organisationOf } = this.estate.principals;
    const organisations = new Set<number>();
    for (let one = 0; one < outsiders.length; one++) if (outsiders[one] === 1) organisations.add(organisationOf[one]);
    return { shares, owners: sum(owners), outsiders: sum(outsiders), organisations: organisations.size };
  }
}

function sum(flags: Uint8Array): number {
  return flags.reduce((all, flag) => all + flag, 0);
}
