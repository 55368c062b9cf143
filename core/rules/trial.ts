import { answererOf } from "../access/answerer";
import type { Share } from "../estate/share";
import type { Estate } from "../estate/estate";
import { RULES } from "./catalogue";
import { findingsOf, isBroken } from "./findings";
import type { Judging } from "./judging";
import { type Bar, barsOf, measureOf } from "./measures";
import type { RuleId } from "./ruleWords";
import { type Scope, unknownInScope } from "./scope";

/** What a rule with such parameters would find. */
export interface Trial {
  title: string;
  bars: Bar[];
  /** Where the rule cuts, in bars from the left; null where it cuts no figure. */
  cut: number | null;
  /** How many shares it looks at, and of those that break it: how many, whose, and for whom. */
  looksAt: number;
  shares: number;
  /** Where the rule is on items. */
  items: number;
  owners: number;
  outsiders: number;
  organisations: number;
  /** What in its scope names nothing that is here, and whether it looks at nothing at all. */
  problems: string[];
}

export function tryRule(rule: RuleId, parameters: Record<string, unknown>, judging: Judging): Trial {
  const measure = measureOf(rule);
  const { bars, barOf, width } = barsOf(measure, parameters);
  const scope = parameters.scope as Scope | undefined;
  const concerned = new Concerned(judging.estate);
  let looksAt = 0;
  for (const one of judging.shares) {
    const falls = isBroken(rule, one, judging, parameters);
    if (!falls && !measure.looksAt(one, judging)) continue;
    looksAt++;
    const bar = bars[barOf(one, judging)];
    if (bar) bar[falls ? "falls" : "stands"]++;
    if (falls) concerned.add(one.share);
  }
  const items = RULES[rule].items ? findingsOf(rule, judging, parameters).length : 0;
  const cut = measure.figure && width ? (parameters[measure.figure.slot] as number) / width : null;
  const problems = scope ? unknownInScope(scope, judging.estate) : [];
  return { title: measure.title, bars, cut, looksAt, items, problems, ...concerned.counts() };
}

/** Who has to do with some shares. */
export class Concerned {
  private shares = 0;
  private readonly owners = new Set<number>();
  private readonly outsiders = new Set<number>();

  constructor(private readonly estate: Estate) {}

  add(share: Share) {
    this.shares++;
    const answerer = answererOf(this.estate, share);
    if (answerer) this.owners.add(answerer.person);
    for (const one of share.outsiders) this.outsiders.add(one);
  }

  counts() {
    const organisations = new Set([...this.outsiders].map((one) => this.estate.principals.organisationOf[one]));
    const { shares, owners, outsiders } = this;
    return { shares, owners: owners.size, outsiders: outsiders.size, organisations: organisations.size };
  }
}
