import type { Estate, Settled } from "../estate/estate";
import { storeAt } from "../estate/estate";
import { Columns } from "../estate/columns";
import { KINDS, LABELS, STANCES } from "../estate/records";
import { Share } from "../estate/share";
import { liveBetween } from "../estate/tree";
import { RULE_IDS, type RuleId } from "../rules/list";
import { brokenBits, DEFAULT_RULES, type RuleSet, ruleChecks, rulesIn } from "../rules/findings";
import type { Judged, Moment } from "../rules/judged";
import { judgeShare, momentOf } from "../rules/judging";
import { stanceOf } from "../rules/parties";
import { LEVELS, riskOf } from "../rules/risk";
import { type Waiver, waivedAmong } from "../rules/waivers";
import { ALWAYS, type Instants, NEVER, type Seconds } from "../time/instant";
import { bits, latchesDemanded } from "./bits";
import type { NumberSets } from "./numberSets";
import type { ProfileFact, ProfileFacts, Profiles } from "./profiles";
import type { RankedTexts } from "./rankedTexts";
import { PASSWORDS, REVOKED_KEPT, stateOf, STATES, wayOf, WAYS } from "./wayAndState";
import { SlotSet } from "./slotSet";
import { Surroundings } from "./surroundings";
import { keptTables, newTables, restoredTables, type Tables } from "./tables";
import { addTurn, type Terms, termsOf, turnsAround } from "./turns";
import { audienceWords } from "../estate/shareWords";

/** Stands in the column of risks where a share has none. */
export const NO_RISK = LEVELS.length;

/** The number of the set of organisations that outsiders are of, and a bit for each stance on those. */
interface OutsiderFacts {
  organisations: number;
  stances: number;
}
const MOST_GROUPS = 2 ** 20;
const NO_WAIVERS: readonly Waiver[] = [];
const INTAKE = WAYS.indexOf("intake");
const NO_OUTSIDERS: OutsiderFacts = { organisations: 0, stances: 0 };

/**
 * What the register shows and asks of shares, as columns by the slots of the shares. It is kept true as the
 * estate changes and as time goes on: each share says when its facts may next turn, and only those whose time
 * has come, and those that something has happened to, are worked out again.
 */
export class Register extends Columns<RegisterColumn> {
  /** 1 where the share is listed: it sits somewhere and hasn't been revoked. */
  readonly isIn: Readonly<Uint32Array> = new Uint32Array(0);
  /** 1 where it sits somewhere and was revoked within the last year: it is found only where that is asked for. */
  readonly isRevoked: Readonly<Uint32Array> = new Uint32Array(0);
  /**
   * Numbers in `profiles`. There, `way`, `kind`, `label`, `state`, `risk` and `role` are indexes into WAYS, KINDS,
   * LABELS, STATES, LEVELS (or NO_RISK) and SHARE_ROLES; `store` is a number in `storeIds`; `outside` is 1 for outside;
   * `password` and `download` are indexes into PASSWORDS (or behind it, for none) and DOWNLOADS;
   * `rules` and `waived` have a bit for each of RULE_IDS that is broken without leave, and by leave; `latches` for each
   * of LATCHES that a rule demands, `stances` for each of STANCES on its outsiders; `engagements` is a number in
   * `engagementSets`.
   */
  readonly profile: Readonly<Uint32Array> = new Uint32Array(0);
  /** One more than the person's index; 0 where we don't know who made it. */
  readonly maker: Readonly<Uint32Array> = new Uint32Array(0);
  /** Numbers in `departments`, of which 0 is none. */
  readonly department: Readonly<Uint32Array> = new Uint32Array(0);
  /** Numbers in `organisationSets`. */
  readonly organisations: Readonly<Uint32Array> = new Uint32Array(0);
  /** How many people it names, outsiders among them, live items it reaches, rules it breaks. */
  readonly people: Readonly<Uint32Array> = new Uint32Array(0);
  readonly outsiders: Readonly<Uint32Array> = new Uint32Array(0);
  readonly items: Readonly<Uint32Array> = new Uint32Array(0);
  readonly findings: Readonly<Uint32Array> = new Uint32Array(0);
  /** Numbers in `names`, `audiences`, and `makerNames`. */
  readonly name: Readonly<Uint32Array> = new Uint32Array(0);
  readonly audience: Readonly<Uint32Array> = new Uint32Array(0);
  readonly makerName: Readonly<Uint32Array> = new Uint32Array(0);
  /** When its facts last changed with time alone, and when they may next. */
  private readonly since: Readonly<Instants> = new Float64Array(0);
  private readonly turn: Readonly<Instants> = new Float64Array(0);
  /** From when it was last worked out: one more than the slot of its item, and the mark of its password. */
  private readonly item: Readonly<Uint32Array> = new Uint32Array(0);
  private readonly mark: Readonly<Uint32Array> = new Uint32Array(0);

  readonly profiles: Profiles;
  readonly storeIds: RankedTexts;
  readonly departments: RankedTexts;
  readonly names: RankedTexts;
  readonly audiences: RankedTexts;
  readonly makerNames: RankedTexts;
  readonly organisationSets: NumberSets;
  readonly engagementSets: NumberSets;
  /** Slots of the shares that are listed, in rising order. */
  listedSlots = new Uint32Array(0);
  /** The same with those that were revoked within the last year. */
  knownSlots = new Uint32Array(0);
  /** Raised whenever a fact has changed, or may have. */
  version = 0;

  private t: Seconds = ALWAYS;
  private nextTurn: Seconds = ALWAYS;
  private waivers = new Map<string, Waiver[]>();
  /** Slots of the shares to be worked out again; and of those whose records have changed. */
  private stale: SlotSet | "all" = "all";
  private told = new SlotSet();
  /** Groups have changed, or items, people or stores too: which shares that affects is still to be found out. */
  private moved: "nothing" | "groups" | "all" = "nothing";
  private surroundings = new Surroundings();
  private differs = false;
  private hasIntake = false;
  private terms: Terms | undefined;
  /** By item slot: the number of its name, or 0 where it hasn't been asked for. */
  private readonly nameOfItem: Readonly<Uint32Array> = new Uint32Array(0);
  // What many shares have in common is worked out once a run.
  private readonly audienceNumbers = new Map<number, number>();
  private readonly outsiderFacts = new Map<number, OutsiderFacts>();
  private readonly makerFacts = new Map<number, { name: number; department: number }>();
  private readonly storeNumbers = new Map<number, number>();
  private checks: ReturnType<typeof ruleChecks> = [];
  /** Positions of the items of each engagement, whatever lies below. */
  private engaged: Map<number, number[]> | undefined;

  constructor(
    readonly estate: Estate,
    private ruleSet: RuleSet = DEFAULT_RULES,
    tables: Tables = newTables(),
  ) {
    super();
    ({
      profiles: this.profiles,
      storeIds: this.storeIds,
      departments: this.departments,
      names: this.names,
      audiences: this.audiences,
      makerNames: this.makerNames,
      organisationSets: this.organisationSets,
      engagementSets: this.engagementSets,
    } = tables);
  }

  /**
   * The register of a copy of the estate, to be brought to other instants and facts from here: all that was worked out
   * stays. Texts and sets share their numbers with this one; a number never changes its meaning.
   */
  copy(estate: Estate): Register {
    const copy = new Register(estate, this.ruleSet, this);
    this.lend(copy, ALL_COLUMNS);
    copy.waivers = new Map(this.waivers);
    copy.surroundings = this.surroundings.copy();
    copy.stale = this.stale === "all" ? "all" : new SlotSet(this.stale);
    copy.told = new SlotSet(this.told);
    copy.moved = this.moved;
    copy.t = this.t;
    copy.nextTurn = this.nextTurn;
    copy.listedSlots = this.listedSlots;
    copy.knownSlots = this.knownSlots;
    copy.version = this.version;
    return copy;
  }

  /** How many slots there are, listed or not. */
  get length(): number {
    return this.estate.shares.count;
  }

  /**
   * All that was worked out, to be kept and given to `restore` another time; null where something is still to be worked
   * out.
   */
  columns() {
    if (this.stale === "all" || this.stale.size > 0 || this.moved !== "nothing") return null;
    const { t, ruleSet, waivers, since, turn, nameOfItem, surroundings } = this;
    const columns = Object.fromEntries(COLUMNS.map((name) => [name, this[name]])) as Record<
      (typeof COLUMNS)[number],
      Uint32Array
    >;
    return {
      ...{ t, ruleSet, waivers, since, turn, nameOfItem, columns },
      surroundings: surroundings.columns(),
      tables: keptTables(this),
    };
  }

  /** The register of columns that were kept together with those of the estate. */
  static restore(estate: Estate, kept: NonNullable<ReturnType<Register["columns"]>>): Register {
    const register = new Register(estate, kept.ruleSet, restoredTables(kept.tables));
    const { since, turn, nameOfItem } = kept;
    Object.assign(register, kept.columns, { since, turn, nameOfItem });
    register.waivers = kept.waivers;
    register.surroundings = new Surroundings(kept.surroundings);
    register.stale = new SlotSet();
    register.t = kept.t;
    register.nextTurn = register.soonestTurn();
    register.listSlots();
    return register;
  }

  /** Learns what has changed in the estate; it is worked out at the next `at`. */
  take({ whole, groupsOnly, shares, renamed, stances }: Settled) {
    for (const item of renamed) this.write("nameOfItem", item, 0);
    for (const slot of shares) this.told.add(slot);
    if (stances || (whole && !groupsOnly)) this.moved = "all";
    else if (whole && this.moved === "nothing") this.moved = "groups";
    if (this.stale === "all") return;
    for (const slot of shares) this.stale.add(slot);
    for (const item of renamed) this.eachOnItem(item, (slot) => (this.stale as SlotSet).add(slot));
  }

  /** The instant to which all facts have been brought. */
  get now(): Seconds {
    return this.t;
  }

  /** The rules that run. */
  get rules(): RuleSet {
    return this.ruleSet;
  }

  /** Ids of the shares and items that have a waiver for a rule. */
  waivedFor(rule: RuleId, t: Seconds): string[] {
    return [...this.waivers.keys()].filter((id) => this.isWaived(id, rule, t));
  }

  /** Whether a share or an item has a waiver for a rule. */
  isWaived(id: string, rule: RuleId, t: Seconds): boolean {
    return waivedAmong([rule], this.waivers.get(id) ?? [], t).length > 0;
  }

  /** Says which rules run; what they find is worked out at the next `at`. */
  takeRules(rules: RuleSet) {
    if (JSON.stringify(rules) === JSON.stringify(this.ruleSet)) return;
    this.ruleSet = rules;
    this.stale = "all";
  }

  /** Says which shares we end ourselves, and when. */
  takeOrders(ends: ReadonlyMap<string, Seconds>) {
    const concerned = this.estate.shares.takeOrders(ends);
    for (const slot of concerned) this.told.add(slot);
    if (this.stale !== "all") for (const slot of concerned) this.stale.add(slot);
  }

  /** Says until when somebody has confirmed that shares may stay. */
  takeConfirmations(until: ReadonlyMap<string, Seconds>) {
    const concerned = this.estate.shares.takeConfirmations(until);
    if (this.stale !== "all") for (const slot of concerned) this.stale.add(slot);
  }

  /** Says which domains are one firm's: neither is a look-alike of the other. */
  takeSameFirms(pairs: readonly [string, string][]) {
    if (this.estate.takeSameFirms(pairs)) this.stale = "all";
  }

  /** Says which shares may break which rules; what they say is worked out at the next `at`. */
  takeWaivers(waivers: readonly Waiver[]) {
    const concerned = new Set([...this.waivers.keys(), ...waivers.map(({ shareId }) => shareId)]);
    this.waivers = new Map();
    for (const waiver of waivers)
      this.waivers.set(waiver.shareId, [...(this.waivers.get(waiver.shareId) ?? []), waiver]);
    if (this.stale === "all") return;
    for (const id of concerned) {
      const slot = this.estate.shares.find(id);
      if (slot !== undefined) this.stale.add(slot);
    }
  }

  /** Brings all facts to t. @returns slots of the shares whose facts have changed or may have */
  at(t: Seconds): number[] {
    if (t === this.t && this.moved === "nothing" && this.stale !== "all" && this.stale.size === 0) return [];
    const isWhole = this.stale === "all" || this.moved !== "nothing";
    this.grow();
    if (isWhole) this.engaged = undefined;
    const { due, anew } = this.due(t);
    this.t = t;
    this.stale = new SlotSet();
    this.moved = "nothing";
    this.terms = termsOf(this.ruleSet, this.estate);
    this.checks = ruleChecks(this.ruleSet);
    const moment = momentOf(this.estate, t);
    const changed = due.filter((slot, at) => this.evaluate(slot, moment, at < anew) || this.told.has(slot));
    this.told = new SlotSet();
    for (const run of [this.audienceNumbers, this.outsiderFacts, this.makerFacts, this.storeNumbers]) run.clear();
    this.nextTurn = this.soonestTurn();
    // Names of stores or engagements may have changed, though no share's own facts have.
    if (changed.length > 0 || isWhole) {
      this.version++;
      this.listSlots();
    }
    return changed;
  }

  private listSlots() {
    this.knownSlots = this.slotsWhere((slot) => this.isKnown(slot));
    this.listedSlots = this.slotsWhere((slot) => this.isIn[slot] === 1);
  }

  /** Whether a share is listed, or was until it was revoked within the last year. */
  isKnown(slot: number): boolean {
    return (this.isIn[slot] | this.isRevoked[slot]) === 1;
  }

  private slotsWhere(holds: (slot: number) => boolean): Uint32Array<ArrayBuffer> {
    const slots = new Uint32Array(this.length);
    let count = 0;
    for (let slot = 0; slot < this.length; slot++) if (holds(slot)) slots[count++] = slot;
    return slots.slice(0, count);
  }

  /**
   * Slots of the shares to be worked out so that everything holds at t; and how many of them, the first ones, may be in
   * another place, or for other people: for the rest only what changes with time is looked at.
   */
  private due(t: Seconds): { due: readonly number[]; anew: number } {
    const { stale, moved, length, estate, ruleSet } = this;
    if (stale === "all") {
      this.surroundings.update(estate, ruleSet, true);
      return { due: Array.from({ length }, (_, slot) => slot), anew: length };
    }
    this.hasIntake = this.profiles.columns.way.includes(INTAKE);
    const due = new SlotSet();
    if (moved === "nothing") this.surroundings.forget(stale, length);
    else for (const slot of this.surroundings.update(estate, ruleSet, moved === "all")) this.addDue(due, slot);
    for (const slot of stale) this.addDue(due, slot);
    const anew = due.size;
    if (t >= this.nextTurn || t < this.t)
      for (let slot = 0; slot < length; slot++)
        if (this.turn[slot] <= t || this.since[slot] > t) this.addDue(due, slot);
    this.addSamePassword(due);
    return { due: due.list(), anew };
  }

  /** Links with the same password: each depends on how many there are. */
  private addSamePassword(due: SlotSet) {
    const { passwordMark } = this.estate.shares;
    const marks = new Set<number>();
    for (const slot of due) for (const mark of [passwordMark[slot], this.mark[slot]]) if (mark > 0) marks.add(mark);
    if (marks.size === 0) return;
    for (let slot = 0; slot < this.length; slot++) if (marks.has(passwordMark[slot])) due.add(slot);
  }

  private soonestTurn(): Seconds {
    let soonest = NEVER;
    for (let slot = 0; slot < this.length; slot++) if (this.turn[slot] < soonest) soonest = this.turn[slot];
    return soonest;
  }

  /** With a share go the intake links on its item, and on the item where it was: a rule about those asks what else is shared there. */
  private addDue(due: SlotSet, slot: number) {
    if (due.has(slot)) return;
    due.add(slot);
    if (!this.hasIntake) return;
    const { item } = this.estate.shares;
    const addIntake = (other: number) => {
      if (this.isIn[other] === 1 && this.fact(other, "way") === INTAKE) due.add(other);
    };
    this.eachOnItem(item[slot], addIntake);
    if (this.item[slot] > 0 && this.item[slot] !== item[slot] + 1) this.eachOnItem(this.item[slot] - 1, addIntake);
  }

  private eachOnItem(item: number, visit: (slot: number) => void) {
    const { tree, shares } = this.estate;
    const position = tree.positionOf[item] ?? -1;
    if (position < 0) return;
    for (let slot = this.estate.firstShareAt(position); slot >= 0; slot = shares.nextOnItem[slot]) visit(slot);
  }

  /**
   * @param isAnew whether its place or its audience may have changed since it was last worked out
   * @returns whether any of its facts has changed
   */
  private evaluate(slot: number, moment: Moment, isAnew: boolean): boolean {
    const share = new Share(this.estate, slot);
    const isTimeAlone = !isAnew && this.isKnown(slot);
    this.differs = false;
    const isIn = share.position >= 0 && share.revoked > moment.t;
    const isRevoked = share.position >= 0 && !isIn && share.revoked + REVOKED_KEPT > moment.t;
    this.set("isIn", slot, isIn ? 1 : 0);
    this.set("isRevoked", slot, isRevoked ? 1 : 0);
    this.write("item", slot, this.estate.shares.item[slot] + 1);
    this.write("mark", slot, share.passwordMark);
    if (!isIn && !isRevoked) {
      this.write("turn", slot, NEVER);
      this.write("since", slot, share.position >= 0 ? share.revoked + REVOKED_KEPT : ALWAYS);
    } else {
      const judged = judgeShare(moment, share);
      if (!isTimeAlone) this.evaluatePlace(judged);
      this.evaluateProfile(judged, moment, isTimeAlone ? this.profile[slot] : undefined);
    }
    return this.differs;
  }

  /** The facts of a share that don't change with time alone. */
  private evaluatePlace({ share, outsiders }: Judged) {
    const { slot, position } = share;
    const { tree } = this.estate;
    const { name, department } = this.factsOfMaker(share.maker);
    this.set("maker", slot, share.maker + 1);
    this.set("makerName", slot, name);
    this.set("department", slot, department);
    this.set("people", slot, share.people.length);
    this.set("outsiders", slot, outsiders.length);
    this.set("items", slot, liveBetween(tree, position, tree.end[position]));
    this.set("name", slot, this.nameOf(tree.slotAt[position]));
    this.set("audience", slot, this.audienceOf(share));
    this.set("organisations", slot, this.factsOfOutsiders(outsiders).organisations);
  }

  /** @param before the profile to take facts from that don't change with time alone; without it, everything is worked out */
  private evaluateProfile(judged: Judged, moment: Moment, before: number | undefined) {
    const { estate, t } = moment;
    const { share } = judged;
    const { slot } = share;
    const waivers = this.waivers.size === 0 ? NO_WAIVERS : (this.waivers.get(share.id) ?? NO_WAIVERS);
    const isRevoked = share.revoked <= t;
    const all = isRevoked ? 0 : brokenBits(judged, moment, this.checks);
    const waived = waivers.length === 0 ? 0 : bits(waivedAmong(rulesIn(all), waivers, t), RULE_IDS);
    const broken = all & ~waived;
    const facts = before === undefined ? this.lastingFacts(judged) : this.profiles.at(before);
    facts.state = STATES.indexOf(stateOf(estate, share, t));
    facts.risk = judged.outside ? LEVELS.indexOf(riskOf(estate, share, t)) : NO_RISK;
    facts.outside = judged.outside ? 1 : 0;
    facts.rules = broken;
    facts.waived = waived;
    facts.latches = latchesDemanded(broken);
    this.set("profile", slot, this.profiles.number(facts));
    this.set("findings", slot, rulesIn(broken).length);
    const turns = isRevoked
      ? { since: share.revoked, next: share.revoked + REVOKED_KEPT }
      : turnsAround(judged, t, this.terms!);
    if (!isRevoked) for (const { until } of waivers) addTurn(turns, t, until);
    this.write("since", slot, turns.since);
    this.write("turn", slot, turns.next);
  }

  /** The facts of a profile that don't change with time alone; the others are empty for now. */
  private lastingFacts({ share, worst, outsiders }: Judged): ProfileFacts {
    const { slot, position } = share;
    const { tree, shares } = this.estate;
    return {
      store: this.storeOf(shares.item[slot], position),
      way: WAYS.indexOf(wayOf(share)),
      kind: KINDS.indexOf(tree.kindAt(position)),
      label: worst === null ? tree.label[position] : LABELS.indexOf(worst),
      role: shares.role[slot],
      password: share.hasPassword ? 0 : PASSWORDS.length,
      download: share.download ? 1 : 0,
      stances: this.factsOfOutsiders(outsiders).stances,
      engagements: this.engagementSets.number(this.engagementsAt(position)),
      ...{ state: 0, risk: NO_RISK, outside: 0, rules: 0, waived: 0, latches: 0 },
    };
  }

  private nameOf(item: number): number {
    this.lengthen("nameOfItem", item + 1);
    if (this.nameOfItem[item] === 0)
      this.write("nameOfItem", item, this.names.number(this.estate.items.names.get(item)));
    return this.nameOfItem[item];
  }

  private storeOf(item: number, position: number): number {
    const known = this.storeNumbers.get(this.estate.items.store[item]);
    if (known !== undefined) return known;
    const number = this.storeIds.number(storeAt(this.estate, position).id);
    this.storeNumbers.set(this.estate.items.store[item], number);
    return number;
  }

  private factsOfMaker(maker: number): { name: number; department: number } {
    let facts = this.makerFacts.get(maker);
    if (facts === undefined) {
      const person = this.estate.people[maker];
      const name = this.makerNames.number(person?.name ?? "");
      facts = { name, department: this.departments.number(person?.department ?? "") };
      this.makerFacts.set(maker, facts);
    }
    return facts;
  }

  private audienceOf(share: Share): number {
    const { people, group } = share;
    if (people.length === 0) return this.audiences.number(audienceWords(this.estate, share));
    // Two groups may hold the same people and still have different names.
    const key = people.byteOffset * MOST_GROUPS + group;
    let number = this.audienceNumbers.get(key);
    if (number === undefined) {
      number = this.audiences.number(audienceWords(this.estate, share));
      this.audienceNumbers.set(key, number);
    }
    return number;
  }

  private factsOfOutsiders(outsiders: Int32Array): OutsiderFacts {
    if (outsiders.length === 0) return NO_OUTSIDERS;
    const { people, principals } = this.estate;
    // A group's members are in one place in the pool, however many shares are for it.
    const known = this.outsiderFacts.get(outsiders.byteOffset);
    if (known) return known;
    const organisations = new Set<number>();
    let stances = 0;
    for (const one of outsiders) {
      organisations.add(principals.organisationOf[one]);
      const stance = stanceOf(this.estate, people[one]);
      if (stance) stances |= 1 << STANCES.indexOf(stance);
    }
    const facts = { organisations: this.organisationSets.number([...organisations]), stances };
    this.outsiderFacts.set(outsiders.byteOffset, facts);
    return facts;
  }

  private engagementsAt(position: number): number[] {
    this.engaged ??= engagedPositions(this.estate);
    if (this.engaged.size === 0) return [];
    const found = new Set<number>();
    for (let at = position; at >= 0; at = this.estate.tree.parent[at])
      for (const engagement of this.engaged.get(at) ?? []) found.add(engagement);
    return [...found];
  }

  private set(name: (typeof COLUMNS)[number], slot: number, value: number) {
    if (this[name][slot] === value) return;
    this.write(name, slot, value);
    this.differs = true;
  }

  private grow() {
    const { length } = this;
    const known = this.turn.length;
    for (const name of [...COLUMNS, "turn", "since"] as const) this.lengthen(name, length);
    if (this.turn.length === known) return;
    this.owned("turn").fill(NEVER, known);
    this.owned("since").fill(ALWAYS, known);
  }

  /** One of the facts in a share's profile. */
  fact(slot: number, fact: ProfileFact): number {
    return this.profiles.columns[fact][this.profile[slot]];
  }

  /** The rules that the share in a slot breaks without a waiver, or with one. */
  rulesOf(slot: number, fact: "rules" | "waived"): readonly RuleId[] {
    return rulesIn(this.fact(slot, fact));
  }
}

const COLUMNS = [
  "isIn",
  "isRevoked",
  "profile",
  "maker",
  "department",
  "organisations",
  "people",
  "outsiders",
  "items",
  "findings",
  "name",
  "audience",
  "makerName",
  "item",
  "mark",
] as const;
const ALL_COLUMNS = [...COLUMNS, "since", "turn", "nameOfItem"] as const;
type RegisterColumn = (typeof ALL_COLUMNS)[number];

function engagedPositions(estate: Estate): Map<number, number[]> {
  const engaged = new Map<number, number[]>();
  for (const [index, { positions }] of estate.engagements.entries())
    for (const position of positions) engaged.set(position, [...(engaged.get(position) ?? []), index]);
  return engaged;
}
