import { type Ranges, union } from "../access/ranges";
import type { Steps } from "../time/steps";
import type { Estate } from "../estate/estate";
import { LABELS, STANCES, type Stance } from "../estate/records";
import { countWithLabel, foldersBetween, liveBetween, type Tree } from "../estate/tree";
import { NO_RISK, type Register } from "../register/register";
import { STATES } from "../register/wayAndState";
import { type Level, LEVELS } from "../rules/risk";
import { byText } from "../text/text";
import { ALWAYS, type Seconds } from "../time/instant";

/** All private mailboxes together have this name, since their users belong to no firm. No domain is empty. */
export const PRIVATE_MAILBOXES = "";

/** One organisation outside, and what its people reach by name. What is open to anyone belongs to no organisation. */
export interface Organisation {
  /** Its registrable domain, or `PRIVATE_MAILBOXES`. */
  domain: string;
  stance: Stance | null;
  /** Its active people whom a share lets in, or who own something. */
  people: number;
  /** Live shares that let one of them in. */
  shares: number;
  /** Live items that they reach that way: files, folders, and both by label, in the order of LABELS. */
  files: number;
  folders: number;
  labels: number[];
  /** When the first of those shares was made, and when one was last used; null where that isn't known. */
  since: Seconds | null;
  lastUsed: Seconds | null;
  /** How many people made those shares. */
  makers: number;
  /** How many current engagements name it. */
  engagements: number;
  /** How many findings those shares have. */
  findings: number;
  /** The highest risk among those shares. */
  risk: Level | null;
}

const LIVE = STATES.indexOf("live");
/** After so many shares the caller can see to something else. */
const SHARES_A_STEP = 5_000;

/** What is gathered about an organisation while shares are counted. */
class Gathered {
  people = 0;
  shares = 0;
  since: Seconds = Infinity;
  lastUsed: Seconds = ALWAYS;
  findings = 0;
  risk = -1;
  readonly makers = new Set<number>();
  /** Numbers of the sets of organisations that it belongs to: they say what it reaches. */
  readonly sets = new Set<number>();
  /** Positions of what its people own. */
  readonly owned: number[] = [];
  engagements = 0;
}

/**
 * Every organisation that outsiders belong to, that we have a stance on or that an engagement names, by name.
 * @param register brought to t
 */
export function* organisationsOf(register: Register, t: Seconds): Steps<Organisation[]> {
  const { estate } = register;
  const gathering = new Gathering(register);
  for (const [i, slot] of register.listedSlots.entries()) {
    gathering.take(slot);
    if (i % SHARES_A_STEP === 0) yield;
  }
  gathering.takeOwned();
  gathering.countPeople();
  gathering.countEngagements(t);
  const found: Organisation[] = [];
  for (const [domain, gathered] of gathering.byDomain) {
    found.push(told(estate, domain, gathered, gathering.reachedBy(gathered)));
    if (found.length % SHARES_A_STEP === 0) yield;
  }
  return found.sort((a, b) => byText(a.domain, b.domain));
}

/** Goes through the shares of a register once. */
class Gathering {
  readonly byDomain = new Map<string, Gathered>();
  /** By number of a principal's organisation. */
  private readonly byNumber: (Gathered | undefined)[] = [];
  /** By number of a set of organisations: the positions of the shares for it. */
  private readonly positions = new Map<number, number[]>();
  private readonly bySet = new Map<number, ReadonlySet<Gathered>>();
  private readonly unions = new Map<number, Ranges>();
  private readonly letIn: Uint8Array;
  /** Where in the pool the audiences are that have been looked at. */
  private readonly seen = new Set<number>();

  constructor(private readonly register: Register) {
    const { people, stances } = register.estate;
    this.letIn = new Uint8Array(people.length);
    for (const domain of stances.keys()) this.of(domain);
  }

  take(slot: number) {
    const { register } = this;
    const { shares, principals } = register.estate;
    const set = register.organisations[slot];
    if (set === 0 || register.fact(slot, "state") !== LIVE) return;
    const position = shares.position[slot];
    const held = this.positions.get(set);
    if (held) held.push(position);
    else this.positions.set(set, [position]);
    for (const gathered of this.ofSet(set)) this.add(gathered, slot, set);
    const [from, to] = [shares.membersFrom[slot], shares.insidersFrom[slot]];
    if (this.seen.has(from)) return;
    this.seen.add(from);
    for (let i = from; i < to; i++) this.letIn[principals.pool[i]] = 1;
  }

  private add(gathered: Gathered, slot: number, set: number) {
    const { register } = this;
    const { made, lastUsed } = register.estate.shares;
    gathered.shares++;
    gathered.sets.add(set);
    gathered.since = Math.min(gathered.since, made[slot]);
    gathered.lastUsed = Math.max(gathered.lastUsed, lastUsed[slot]);
    gathered.findings += register.findings[slot];
    const risk = register.fact(slot, "risk");
    if (risk !== NO_RISK) gathered.risk = Math.max(gathered.risk, risk);
    if (register.maker[slot] > 0) gathered.makers.add(register.maker[slot]);
  }

  takeOwned() {
    const { estate } = this.register;
    const { items, tree, principals } = estate;
    for (let item = 0; item < items.count; item++) {
      if (items.owner[item] < 0) continue;
      const position = tree.positionOf[item];
      const owner = position < 0 || tree.live[position] === 0 ? -1 : estate.activeOwnerAt(position);
      if (owner < 0 || principals.insider[owner] === 1) continue;
      this.letIn[owner] = 1;
      this.ofNumber(principals.organisationOf[owner]).owned.push(position);
    }
  }

  countPeople() {
    const { everybody, principals } = this.register.estate;
    for (const { index, insider } of everybody) {
      if (insider || principals.active[index] === 0) continue;
      const gathered = this.ofNumber(principals.organisationOf[index]);
      if (this.letIn[index] === 1) gathered.people++;
    }
  }

  countEngagements(t: Seconds) {
    for (const { organisations, ends } of this.register.estate.engagements) {
      if (ends <= t) continue;
      for (const gathered of new Set([...organisations].map((domain) => this.of(domain)))) gathered.engagements++;
    }
  }

  /** All that an organisation's people reach together. */
  reachedBy({ sets, owned }: Gathered): Ranges {
    if (sets.size === 1 && owned.length === 0) return this.unionOf(sets.values().next().value!);
    return union([...[...sets].flatMap((set) => this.unionOf(set)), ...this.below(owned)]);
  }

  /** What is at some positions and below them. */
  private below(positions: readonly number[]): number[] {
    const { end } = this.register.estate.tree;
    return positions.flatMap((position) => [position, end[position]]);
  }

  private unionOf(set: number): Ranges {
    let known = this.unions.get(set);
    if (!known) {
      known = union(this.below(this.positions.get(set)!));
      this.unions.set(set, known);
    }
    return known;
  }

  /** The domains of private mailboxes count as one organisation. */
  private ofSet(set: number): ReadonlySet<Gathered> {
    let known = this.bySet.get(set);
    if (!known) {
      known = new Set(this.register.organisationSets.get(set).map((number) => this.ofNumber(number)));
      this.bySet.set(set, known);
    }
    return known;
  }

  private ofNumber(number: number): Gathered {
    return (this.byNumber[number] ??= this.of(this.register.estate.principals.organisations[number]));
  }

  private of(domain: string): Gathered {
    const { stances } = this.register.estate;
    const name = stances.get(domain) === "personal" ? PRIVATE_MAILBOXES : domain;
    let gathered = this.byDomain.get(name);
    if (!gathered) this.byDomain.set(name, (gathered = new Gathered()));
    return gathered;
  }
}

export const reachesSome = ({ files, folders }: Organisation) => files + folders > 0;

function told({ stances, tree }: Estate, domain: string, gathered: Gathered, reached: Ranges): Organisation {
  const { people, shares, since, lastUsed, makers, engagements, findings, risk } = gathered;
  const items = inRanges(tree, reached, liveBetween);
  const folders = inRanges(tree, reached, foldersBetween);
  return {
    domain,
    stance: domain === PRIVATE_MAILBOXES ? "personal" : (stances.get(domain) ?? null),
    people,
    shares,
    ...{ files: items - folders, folders, labels: labelsIn(tree, reached) },
    since: Number.isFinite(since) ? since : null,
    lastUsed: lastUsed === ALWAYS ? null : lastUsed,
    makers: makers.size,
    engagements,
    findings,
    risk: risk < 0 ? null : LEVELS[risk],
  };
}

/** How many live items in some ranges have each of LABELS. */
function labelsIn(tree: Tree, ranges: Ranges): number[] {
  return LABELS.map((_, label) => inRanges(tree, ranges, (of, from, to) => countWithLabel(of, label, from, to)));
}

function inRanges(tree: Tree, ranges: Ranges, between: typeof liveBetween): number {
  let count = 0;
  for (let i = 0; i < ranges.length; i += 2) count += between(tree, ranges[i], ranges[i + 1]);
  return count;
}

/** What the list of organisations can be sorted by. */
export const ORGANISATION_COLUMNS = [
  ...(["domain", "stance", "people", "files", "folders", "sensitive", "shares"] as const),
  ...(["since", "lastUsed", "makers", "engagements", "findings", "risk"] as const),
] as const;
export type OrganisationColumn = (typeof ORGANISATION_COLUMNS)[number];

/** The order in which organisations are wanted. */
export interface OrganisationOrder {
  by: OrganisationColumn;
  reversed: boolean;
}

/** How many items are restricted or confidential. */
const SENSITIVE = [LABELS.indexOf("restricted"), LABELS.indexOf("confidential")];

const VALUES: Record<OrganisationColumn, (one: Organisation) => number | string | null> = {
  domain: ({ domain }) => domain,
  stance: ({ stance }) => (stance === null ? null : STANCES.indexOf(stance)),
  people: ({ people }) => people,
  files: ({ files }) => files,
  folders: ({ folders }) => folders,
  sensitive: ({ labels }) => SENSITIVE.reduce((sum, label) => sum + labels[label], 0),
  shares: ({ shares }) => shares,
  since: ({ since }) => since,
  lastUsed: ({ lastUsed }) => lastUsed,
  makers: ({ makers }) => makers,
  engagements: ({ engagements }) => engagements,
  findings: ({ findings }) => findings,
  risk: ({ risk }) => (risk === null ? null : LEVELS.indexOf(risk)),
};

/**
 * All in an order: the highest first, names from A. Unknown values come last.
 * @param all by name; equal ones stay in that order
 */
export function sortedOrganisations(all: readonly Organisation[], { by, reversed }: OrganisationOrder): Organisation[] {
  const value = VALUES[by];
  const isRising = (by === "domain") !== reversed;
  return all
    .map((one) => ({ one, value: value(one) }))
    .sort((a, b) => inOrder(a.value, b.value, isRising))
    .map(({ one }) => one);
}

function inOrder<V extends number | string>(a: V | null, b: V | null, isRising: boolean): number {
  if (a === b) return 0;
  if (a === null || b === null) return a === null ? 1 : -1;
  return a < b === isRising ? -1 : 1;
}
