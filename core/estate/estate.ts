import { shownRecord } from "./shownRecord";
import { NEVER, seconds, type Seconds } from "../time/instant";
import { normaliseDomain } from "./address";
import { type Belief, byBelief, type Sourced } from "./believed";
import { grown } from "./grow";
import { Items } from "./items";
import type { LabelRule } from "./labels";
import { type Person, Principals } from "./principals";
import type * as records from "./records";
import { Share } from "./share";
import { downloadPossible, PEOPLE, SHARE_ROLES, Shares } from "./shares";
import { buildTree, type Tree } from "./tree";

/** What can be taken out: of most, only of a copy, where it wasn't yet there. What names it is enough then. */
export type Forgettable =
  | Sourced<records.Removable>
  | { type: Exclude<records.RecordType, records.Removable["type"] | "estate" | "event">; id: string };

export interface Engagement {
  record: records.EngagementRecord;
  positions: Set<number>;
  organisations: Set<string>;
  starts: Seconds;
  ends: Seconds;
}

/** What records that were put since the last time have changed. */
export interface Settled {
  /** Positions or people have changed: whatever was computed must be computed again. */
  whole: boolean;
  /** Of `whole`: nothing but whom groups hold. */
  groupsOnly: boolean;
  /** What a store can do, or what it is called. */
  stores: boolean;
  /** Slots of the shares that are new or changed. */
  shares: number[];
  /** Slots of the items that have another name. */
  renamed: number[];
  /** Parties or engagements have changed: what is found in shares must be found again. */
  stances: boolean;
}

const UNCHANGED = { people: false, groups: false, tree: false, stores: false, stances: false };

/**
 * The estate at one time, in columns. Records are put in any order, and again when they change;
 * `settle` then works out what follows from them: where items stand, whom groups hold, whom each share
 * lets in and where. A record that speaks of something that isn't there is left out and named in
 * `dangling`; the file's reader refuses such files before this.
 */
export class Estate {
  asOf: Seconds = 0;
  homeDomains: string[] = [];
  stores = new Map<string, Sourced<records.StoreRecord>>();
  stances = new Map<string, records.Stance>();
  /** Pairs of domains that are one firm's, with a space between. */
  private sameFirms: ReadonlySet<string> = new Set();
  private lastDays: ReadonlyMap<string, Seconds> = new Map();
  private labelRules: readonly LabelRule[] = [];
  tree: Tree;
  private engagementList: Engagement[] | undefined;
  /** The stores by the numbers that items know them by; filled as they are asked for. */
  private storeList: (Sourced<records.StoreRecord> | undefined)[] = [];
  private engagementRecords = new Map<string, records.EngagementRecord>();
  /** By source and domain. */
  private partyRecords = new Map<string, Sourced<records.PartyRecord>>();
  private head: records.RecordOf<"estate"> | undefined;
  /** First share on each item slot, or -1; the others follow by `nextOnItem`. */
  private firstOnItem = new Int32Array(0);
  private changed = { ...UNCHANGED, people: true, tree: true, stores: true, shares: [] as number[] };
  private everybodyThen: readonly Person[] | undefined;

  constructor(
    readonly items = new Items(),
    readonly shares = new Shares(),
    readonly principals = new Principals(),
  ) {
    this.tree = buildTree(new Items());
  }

  /** The instant that is asked about, where it lies before what the records tell; else NEVER. */
  get asAt(): Seconds {
    return this.principals.asAt;
  }

  /** By index. Of a past, some may not be known yet: for lists there is `everybody`. */
  get people(): readonly Person[] {
    return this.principals.people;
  }

  /** Everybody of whom a record speaks, or a link. */
  get everybody(): readonly Person[] {
    if (this.asAt === NEVER) return this.people;
    return (this.everybodyThen ??= this.people.filter(
      ({ index }) => this.namedByLinks.has(index) || this.principals.isTold(index),
    ));
  }

  private get namedByLinks(): Set<number> {
    const { count, recipients, recipientsFrom, recipientsTo } = this.shares;
    const named = new Set<number>();
    for (let slot = 0; slot < count; slot++)
      for (let at = recipientsFrom[slot]; at < recipientsTo[slot]; at++) named.add(recipients[at]);
    return named;
  }

  /** Its names are held as they are shown: what a name can do to a line or a screen it can do nowhere. */
  put(told: Sourced) {
    const record = shownRecord(told);
    switch (record.type) {
      case "estate":
        this.head = record;
        this.asOf = seconds(record.asOf);
        this.homeDomains = record.homeDomains.map(normaliseDomain);
        this.changed.people = true;
        break;
      case "store":
        this.stores.set(record.id, record);
        this.storeList = [];
        this.changed.stores = true;
        break;
      case "person":
        this.principals.put(record);
        this.changed.people = true;
        break;
      case "group":
      case "member":
        this.principals.put(record);
        this.changed.groups = true;
        break;
      case "item": {
        const owner = record.ownerId === null ? -1 : this.principals.handle(record.ownerId);
        const change = this.items.put(record, owner);
        if (change !== "name") this.changed.tree = true;
        if (change === "nature") this.changed.stores = true;
        break;
      }
      case "grant":
      case "link":
        this.putShare(record);
        break;
      case "party":
        this.putParty(record);
        break;
      case "engagement":
        this.engagementRecords.set(record.id, record);
        this.engagementList = undefined;
        this.changed.stances = true;
        break;
      case "event":
    }
  }

  /** Takes out a membership, or the stance of one source; of a past, what wasn't yet there. */
  remove(record: Forgettable) {
    switch (record.type) {
      case "party":
        this.removeParty(record);
        break;
      case "member":
        this.principals.removeMember(record);
        this.changed.groups = true;
        break;
      case "person":
        this.principals.forget({ ...record, type: "person" });
        this.changed.people = true;
        break;
      case "group":
        this.principals.forget({ ...record, type: "group" });
        this.changed.groups = true;
        break;
      case "store":
        this.stores.delete(record.id);
        this.storeList = [];
        this.changed.stores = true;
        break;
      case "item":
        this.items.forget(record.id);
        this.changed.tree = true;
        break;
      case "grant":
      case "link":
        this.forgetShare(record.id);
        break;
      case "engagement":
        this.engagementRecords.delete(record.id);
        this.engagementList = undefined;
        this.changed.stances = true;
    }
  }

  private forgetShare(id: string) {
    const slot = this.shares.forget(id);
    if (slot !== undefined) this.changed.shares.push(slot);
  }

  private removeParty(record: Sourced<records.PartyRecord>) {
    const domain = normaliseDomain(record.domain);
    this.partyRecords.delete(partyKey(record, domain));
    this.believeParty(domain);
  }

  /**
   * A copy of which another instant is to be asked: what is told to either from then on the other doesn't know. What
   * never changes is held in common.
   */
  copy(asAt: Seconds): Estate {
    const items = this.items.copy();
    const copy = new Estate(items, this.shares.copy(), this.principals.copy(asAt));
    copy.asOf = this.asOf;
    copy.homeDomains = this.homeDomains;
    copy.head = this.head;
    copy.stores = new Map(this.stores);
    copy.stances = new Map(this.stances);
    copy.partyRecords = new Map(this.partyRecords);
    copy.engagementRecords = new Map(this.engagementRecords);
    copy.sameFirms = this.sameFirms;
    copy.lastDays = this.lastDays;
    copy.labelRules = this.labelRules;
    copy.tree = this.tree.withItems(items);
    copy.firstOnItem = this.firstOnItem.slice();
    copy.changed = { ...UNCHANGED, shares: [] };
    copy.goBackTo(asAt);
    return copy;
  }

  /** Another instant is to be asked about, which lies before; what has changed since is still to be told. */
  goBackTo(asAt: Seconds) {
    this.principals.asAt = asAt;
    this.everybodyThen = undefined;
    // Whoever has left since was there then.
    const isOtherwise = ({ leftAt }: Person) => leftAt !== null && leftAt > asAt;
    this.changed.people ||= this.people.some(isOtherwise);
  }

  private putParty(record: Sourced<records.PartyRecord>) {
    const domain = normaliseDomain(record.domain);
    this.partyRecords.set(partyKey(record, domain), record);
    this.believeParty(domain);
  }

  /** Of several sources with a stance on one domain the first that is believed counts. */
  private believeParty(domain: string) {
    const first = [...this.partyRecords.values()]
      .filter((one) => normaliseDomain(one.domain) === domain)
      .sort(byBelief(this.principals.belief))
      .at(0);
    if (first) this.stances.set(domain, first.stance);
    else this.stances.delete(domain);
    this.changed.stances = true;
  }

  private putShare(record: Sourced<records.ShareRecord>) {
    const { slot, hasMoved } = this.shares.put(record, this.items.slotOf(record.itemId), this.principals);
    if (hasMoved && this.shares.isChained[slot] === 1) this.changed.stores = true;
    this.changed.shares.push(slot);
  }

  /** Works out what follows from the records that were put since the last time. */
  settle(): Settled {
    const { people, groups, stores, stances, shares } = this.changed;
    const renamed = this.items.renamed.splice(0);
    // A label may go by a name.
    const tree = this.changed.tree || (renamed.length > 0 && this.labelRules.some(({ on }) => on === "name"));
    this.changed = { ...UNCHANGED, shares: [] };
    this.everybodyThen = undefined;
    if (people) this.principals.settle(this.homeDomains);
    else if (groups) this.principals.settleGroups();
    if (tree) {
      this.tree = buildTree(this.items, this.labelRules);
      this.engagementList = undefined;
    }
    const isDone = !people && !stores && (!tree || this.movePositions()) && this.settleSome(groups, shares);
    if (!isDone) this.settleAll();
    const isMoved = people || tree || stores || !isDone;
    return { whole: isMoved || groups, groupsOnly: groups && !isMoved, stores, shares, renamed, stances };
  }

  private settleAll() {
    this.firstOnItem = new Int32Array(this.items.count).fill(-1);
    this.shares.unchain();
    for (let slot = this.shares.count - 1; slot >= 0; slot--) this.settleShare(slot);
  }

  /** Settles single shares. @returns false where one of them has gone from its item: then all must be settled */
  private settleSome(groups: boolean, slots: readonly number[]): boolean {
    const { shares, principals } = this;
    if (groups)
      for (let slot = 0; slot < shares.count; slot++) {
        const to = shares.to[slot];
        // A group holds others than before: what is granted to it is for others too.
        const isConcerned = to >= 0 && (principals.groupOf[to] >= 0 || shares.position[slot] < 0);
        if (isConcerned && !this.settleShare(slot)) return false;
      }
    return slots.every((slot) => this.settleShare(slot));
  }

  /** Items stand elsewhere than before: so do the shares on them. @returns false where all must be settled */
  private movePositions(): boolean {
    const { shares, tree } = this;
    for (let slot = 0; slot < shares.count; slot++) {
      const position = tree.positionOf[shares.item[slot]] ?? -1;
      if (shares.position[slot] >= 0 && position >= 0) shares.write("position", slot, position);
      else if ((shares.position[slot] >= 0 || position >= 0) && !this.settleShare(slot)) return false;
    }
    return true;
  }

  /** @returns false where it stood on its item and can't any more */
  private settleShare(slot: number): boolean {
    const { shares, items } = this;
    const item = shares.item[slot];
    const position = this.tree.positionOf[item] ?? -1;
    const members = this.membersOf(slot);
    const store = position < 0 ? undefined : this.storeOfSlot(item);
    if (position < 0 || !store || members === null) {
      shares.write("position", slot, -1);
      return shares.isChained[slot] === 0;
    }
    shares.write("position", slot, position);
    shares.write("membersFrom", slot, members.from);
    shares.write("insidersFrom", slot, members.insidersFrom);
    shares.write("membersTo", slot, members.to);
    const promised = { role: SHARE_ROLES[shares.role[slot]], download: shares.promisesDownload(slot) };
    const isPossible = downloadPossible(promised, items.kindOf(item), store.capabilities);
    shares.write("download", slot, isPossible ? 1 : 0);
    this.chain(slot, item);
    return true;
  }

  private storeOfSlot(item: number): Sourced<records.StoreRecord> | undefined {
    if (!this.items.isKnown(item)) return undefined;
    const index = this.items.store[item];
    return (this.storeList[index] ??= this.stores.get(this.items.storeOf(item)));
  }

  /** By the number of each store in the items: what is made of it; 0 where nothing is known of it. */
  storeNumbers(of: (store: Sourced<records.StoreRecord>) => number): Int32Array {
    const { items, stores } = this;
    return Int32Array.from({ length: items.storeCount }, (_, number) => {
      const store = stores.get(items.storeIdOf(number));
      return store ? of(store) : 0;
    });
  }

  private chain(slot: number, item: number) {
    const { shares } = this;
    if (shares.isChained[slot] === 1) return;
    shares.write("isChained", slot, 1);
    while (this.firstOnItem.length <= item) {
      const before = this.firstOnItem.length;
      this.firstOnItem = grown(this.firstOnItem, item + 1);
      this.firstOnItem.fill(-1, before);
    }
    shares.write("nextOnItem", slot, this.firstOnItem[item]);
    this.firstOnItem[item] = slot;
  }

  /** Null where a grant is to nobody that we know of. */
  private membersOf(slot: number) {
    const { shares, principals } = this;
    if (shares.to[slot] >= 0) return principals.audienceOf(shares.to[slot]);
    if (shares.audience[slot] !== PEOPLE) return principals.audience([]);
    return principals.audience(shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]));
  }

  /** Slot of the first share on the item at a position, or -1; `shares.nextOnItem` leads on. */
  firstShareAt(position: number): number {
    const item = this.tree.slotAt[position];
    return item < this.firstOnItem.length ? this.firstOnItem[item] : -1;
  }

  share(id: string): Share | undefined {
    const slot = this.shares.find(id);
    return slot === undefined || this.shares.position[slot] < 0 ? undefined : new Share(this, slot);
  }

  /** Every share that sits somewhere, in no particular order. */
  *allShares(): Generator<Share> {
    for (let slot = 0; slot < this.shares.count; slot++)
      if (this.shares.position[slot] >= 0) yield new Share(this, slot);
  }

  /** How many shares sit somewhere. */
  get shareCount(): number {
    let count = 0;
    for (let slot = 0; slot < this.shares.count; slot++) if (this.shares.position[slot] >= 0) count++;
    return count;
  }

  /** Person index of the owner of the item at a position, whether active or not, or -1. */
  ownerAt(position: number): number {
    const owner = this.items.owner[this.tree.slotAt[position]];
    return owner < 0 ? -1 : this.principals.personOf[owner];
  }

  /** Person index of the owner where they are active, else -1. */
  activeOwnerAt(position: number): number {
    const owner = this.ownerAt(position);
    return owner >= 0 && this.principals.active[owner] === 1 ? owner : -1;
  }

  /** Person index of somebody's manager, whether active or not, or -1. */
  managerOf(person: number): number {
    const id = this.people[person]?.managerId;
    return id ? (this.principals.findPerson(id) ?? -1) : -1;
  }

  /** Learns whom to believe first; what follows from it counts from the next `settle` on. */
  takeBelief(belief: Belief) {
    if (belief.join() === this.principals.belief.join()) return;
    this.principals.belief = belief;
    this.changed.people = true;
    for (const domain of new Set(this.stances.keys())) this.believeParty(domain);
  }

  /** Learns by which rules of ours items are labelled; what follows from it counts from the next `settle` on. */
  takeLabelRules(rules: readonly LabelRule[]) {
    if (JSON.stringify(rules) === JSON.stringify(this.labelRules)) return;
    this.labelRules = rules;
    this.changed.tree = true;
  }

  /** @param days by address: the last day of those who leave, where somebody has said it here, whatever others tell. @returns whether they are others than before */
  takeLastDays(days: ReadonlyMap<string, Seconds>): boolean {
    const before = this.lastDays;
    this.lastDays = days;
    return before.size !== days.size || [...days].some(([address, at]) => before.get(address) !== at);
  }

  /** The last day that somebody has said here, or null. */
  lastDaySetHere(person: number): Seconds | null {
    return this.lastDays.get(this.people[person].address) ?? null;
  }

  /** Somebody's last instant here, past or to come, or null. */
  lastDayOf(person: number): Seconds | null {
    return this.lastDaySetHere(person) ?? this.people[person].leftAt;
  }

  /** @param pairs each in the order of its letters. @returns whether they are others than before */
  takeSameFirms(pairs: readonly [string, string][]): boolean {
    const before = this.sameFirms;
    this.sameFirms = new Set(pairs.map((pair) => pair.join(" ")));
    return before.size !== this.sameFirms.size || [...before].some((pair) => !this.sameFirms.has(pair));
  }

  isSameFirm(domain: string, other: string): boolean {
    return this.sameFirms.has([domain, other].sort().join(" "));
  }

  get engagements(): Engagement[] {
    return (this.engagementList ??= [...this.engagementRecords.values()].map((record) => ({
      record,
      positions: new Set(record.itemIds.map((id) => this.tree.position(id)).filter((one) => one !== undefined)),
      organisations: new Set(record.organisations.map(normaliseDomain)),
      starts: seconds(record.startsAt),
      ends: seconds(record.endsAt),
    })));
  }

  /** Ids of records left out because they speak of something that isn't here. */
  get dangling(): string[] {
    const { items, shares } = this;
    const found: string[] = [];
    for (let slot = 0; slot < items.count; slot++)
      if (items.isKnown(slot) && items.parent[slot] >= 0 && !items.isKnown(items.parent[slot]))
        found.push(items.idOf(slot));
    for (let slot = 0; slot < shares.count; slot++)
      if (shares.position[slot] < 0 && shares.item[slot] >= 0) found.push(shares.idOf(slot));
    return found;
  }

  /** Lets all texts take less room: for when much has been put, and less is to come. */
  pack() {
    this.items.pack();
    this.shares.ids.pack();
  }

  /** All that was put, in columns, to be kept and given to `restore` another time. */
  columns() {
    const small = [
      ...(this.head ? [this.head] : []),
      ...this.stores.values(),
      ...this.principals.records(),
      ...this.partyRecords.values(),
      ...this.engagementRecords.values(),
    ] as records.EstateRecord[];
    return {
      items: this.items.columns(),
      shares: this.shares.columns(),
      handles: this.principals.handles(),
      addresses: this.people.map((person) => person.address),
      sameFirms: this.sameFirms,
      labelRules: this.labelRules,
      small,
    };
  }

  /** The estate of columns that were kept; settled. */
  static restore(columns: ReturnType<Estate["columns"]>, belief: Belief = []): Estate {
    const principals = new Principals();
    principals.belief = belief;
    for (const id of columns.handles) principals.handle(id);
    for (const address of columns.addresses) principals.personAt(address);
    const estate = new Estate(Items.restore(columns.items), Shares.restore(columns.shares), principals);
    estate.sameFirms = columns.sameFirms;
    estate.labelRules = columns.labelRules;
    for (const record of columns.small) estate.put(record);
    estate.settle();
    return estate;
  }
}

/**
 * Builds the estate from its records, in any order.
 * @param asAt the instant that will be asked about, where it lies before what the records tell
 */
export function buildEstate(source: Iterable<Sourced>, asAt: Seconds = NEVER): Estate {
  const estate = new Estate();
  estate.principals.asAt = asAt;
  for (const record of source) estate.put(record);
  estate.settle();
  return estate;
}

/** The store that keeps the item at a position. */
export function storeAt(estate: Estate, position: number): Sourced<records.StoreRecord> {
  return estate.stores.get(estate.tree.storeIdAt(position))!;
}

/** The shares that sit on one position, by id. */
export function sharesOn(estate: Estate, position: number): Share[] {
  const found: Share[] = [];
  for (let slot = estate.firstShareAt(position); slot >= 0; slot = estate.shares.nextOnItem[slot])
    found.push(new Share(estate, slot));
  return found.sort((a, b) => (a.id < b.id ? -1 : 1));
}

function partyKey({ source }: Sourced<records.PartyRecord>, domain: string): string {
  return `${source ?? ""} ${domain}`;
}
