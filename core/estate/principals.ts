import { NEVER, type Seconds } from "../time/instant";
import { domainOf, isHomeDomain, normaliseAddress, organisationOf } from "./address";
import { type Belief, believed, byBelief, type Sourced } from "./believed";
import { closuresOf } from "./closures";
import { grown } from "./grow";
import { Ids } from "./ids";
import { type GroupRecord, type PersonRecord, recordKey, type RecordOf } from "./records";

/** A person, once for each address, however many records speak of them. */
export interface Person {
  index: number;
  /** The first record's id, or `mailto:ADDRESS` for a recipient whom no record speaks of. */
  id: string;
  address: string;
  name: string;
  insider: boolean;
  /** Of an outsider; the home domain's own registrable domain for an insider. */
  organisation: string;
  status: PersonRecord["status"];
  department: string | null;
  managerId: string | null;
  /** Their last instant here, past or to come, where anybody tells it. */
  leftAt: Seconds | null;
  /** Of whoever isn't active: since when they are suspended, where anybody tells it. */
  suspendedAt: Seconds | null;
}

/** What is known of somebody of whom no record speaks. */
const UNTOLD = { status: "active", department: null, managerId: null, leftAt: null, suspendedAt: null } as const;

/** Where in the pool of members an audience stands: outsiders first, then insiders. */
export interface Members {
  from: number;
  insidersFrom: number;
  to: number;
}

/** A membership, as two handles. */
interface Membership {
  group: number;
  member: number;
}

const NOBODY: Members = { from: 0, insidersFrom: 0, to: 0 };

/**
 * Everybody, and every group, that something can be granted to. Ids are interned as handles, which stay
 * when records change; whom a handle means is told by `personOf` and `groupOf`.
 */
export class Principals {
  people: Person[] = [];
  groups: GroupRecord[] = [];
  organisations: string[] = [];
  /** Index into `organisations` of each person. */
  organisationOf = new Int32Array(0);
  /** 1 for active people: only they count. */
  active = new Uint8Array(0);
  insider = new Uint8Array(0);
  /** Members of audiences, one after the other; only active people. */
  pool = new Int32Array(0);
  /** By handle: the person's or the group's index, or -1. */
  personOf: number[] = [];
  groupOf: number[] = [];
  /** The instant that is asked about, where it lies before what the records tell: whoever left after it was there. */
  asAt: Seconds = NEVER;
  /** Whom to believe first. */
  belief: Belief = [];
  /** How much of the pool is used. */
  poolLength = 0;
  /** Their numbers are the handles. */
  private ids = new Ids();
  private indexByAddress = new Map<string, number>();
  private organisationByDomain = new Map<string, string>();
  private organisationIndex = new Map<string, number>();
  /** Index of the person whom a record is of. */
  private indexById = new Map<string, number>();
  private personRecords = new Map<string, Sourced<PersonRecord>>();
  private groupRecords = new Map<string, GroupRecord>();
  private membershipRecords = new Map<string, Membership>();
  private homeDomains: readonly string[] = [];
  /** By person: every record of them. */
  private told = new Map<number, Sourced<PersonRecord>[]>();
  private self: (Members | undefined)[] = [];
  private ofGroup: Members[] = [];
  private subgroups: number[][] = [];
  private groupsAbove: number[][] = [];
  /** Direct members of each group; somebody with two records may be in it twice. */
  private direct: number[][] = [];
  // Made when they are first asked for.
  private directSets: (Set<number> | undefined)[] = [];
  private directGroups: Map<number, number[]> | undefined;

  /** Takes effect with the next `settle` or `settleGroups`. */
  put(record: Sourced<PersonRecord> | GroupRecord | RecordOf<"member">) {
    if (record.type === "person") {
      this.personRecords.set(record.id, record);
      this.indexById.set(record.id, this.personAt(record.email));
    } else if (record.type === "group") this.groupRecords.set(record.id, record);
    else this.membershipRecords.set(recordKey(record), this.membership(record));
  }

  removeMember(record: RecordOf<"member">) {
    this.membershipRecords.delete(recordKey(record));
  }

  /** Takes out a person or a group that wasn't there yet. */
  forget({ type, id }: { type: "person" | "group"; id: string }) {
    if (type === "person") this.personRecords.delete(id);
    else this.groupRecords.delete(id);
  }

  /** A copy; later changes to either don't affect the other. @param asAt the instant that will be asked about */
  copy(asAt: Seconds): Principals {
    const copy = new Principals();
    copy.asAt = asAt;
    copy.belief = this.belief;
    copy.people = this.people.map((person) => ({ ...person }));
    copy.groups = this.groups.slice();
    copy.organisations = this.organisations.slice();
    for (const name of ["organisationOf", "active", "insider", "pool"] as const)
      (copy[name] as Int32Array) = (this[name] as Int32Array).slice();
    copy.personOf = this.personOf.slice();
    copy.groupOf = this.groupOf.slice();
    copy.poolLength = this.poolLength;
    copy.ids = this.ids.copy();
    copy.indexByAddress = new Map(this.indexByAddress);
    copy.organisationByDomain = new Map(this.organisationByDomain);
    copy.organisationIndex = new Map(this.organisationIndex);
    copy.indexById = new Map(this.indexById);
    copy.personRecords = new Map(this.personRecords);
    copy.groupRecords = new Map(this.groupRecords);
    copy.membershipRecords = new Map(this.membershipRecords);
    copy.homeDomains = this.homeDomains;
    copy.self = this.self.slice();
    // These are replaced as a whole whenever they change.
    const { told, ofGroup, subgroups, groupsAbove, direct } = this;
    return Object.assign(copy, { told, ofGroup, subgroups, groupsAbove, direct });
  }

  /** Whether any record speaks of somebody. */
  isTold(person: number): boolean {
    return this.told.has(person);
  }

  private membership({ groupId, memberId }: RecordOf<"member">): Membership {
    return { group: this.handle(groupId), member: this.handle(memberId) };
  }

  /** The records, to be put again later. */
  *records() {
    yield* this.personRecords.values();
    yield* this.groupRecords.values();
    yield* this.memberships();
  }

  handle(id: string): number {
    let handle = this.ids.find(id);
    if (handle === undefined) {
      handle = this.ids.add(id);
      this.personOf.push(-1);
      this.groupOf.push(-1);
    }
    return handle;
  }

  idOfHandle(handle: number): string {
    return this.ids.get(handle);
  }

  /** Direct memberships, as records. */
  *memberships(): Generator<RecordOf<"member">> {
    for (const { group, member } of this.membershipRecords.values())
      yield { type: "member", groupId: this.ids.get(group), memberId: this.ids.get(member) };
  }

  /** By id of each group that stands for another: that other group's id. */
  standIns(): Map<string, string> {
    const idOf = (group: number) => this.groups[group].id;
    return new Map([...this.groupsThatStandForOthers()].map(([group, other]) => [idOf(group), idOf(other)]));
  }

  /** The ids of all handles, in their order. */
  handles(): string[] {
    return [...this.ids];
  }

  /** The person of an address as it was written; a new one where nobody has spoken of them yet. */
  personAt(address: string): number {
    const plain = normaliseAddress(address);
    const known = this.indexByAddress.get(plain);
    if (known !== undefined) return known;
    const index = this.people.length;
    const id = `mailto:${plain}`;
    this.people.push({ index, id, name: plain, ...UNTOLD, ...this.describe(plain) });
    this.indexByAddress.set(plain, index);
    this.personOf[this.handle(id)] = index;
    this.keepColumns(index);
    return index;
  }

  /** What an address alone says about its holder. */
  describe(address: string): Pick<Person, "address" | "organisation" | "insider"> {
    const plain = normaliseAddress(address);
    return { address: plain, organisation: this.organisationAt(domainOf(plain)), insider: this.isInsider(plain) };
  }

  private organisationAt(domain: string): string {
    let organisation = this.organisationByDomain.get(domain);
    if (organisation === undefined) {
      organisation = organisationOf(domain);
      this.organisationByDomain.set(domain, organisation);
    }
    return organisation;
  }

  private isInsider(address: string): boolean {
    return isHomeDomain(domainOf(address), this.homeDomains);
  }

  /** Index of the person with an address, as it was written, or undefined. */
  findAddress(address: string): number | undefined {
    return this.indexByAddress.get(normaliseAddress(address));
  }

  /** Index of the person with an id, or undefined. */
  findPerson(id: string): number | undefined {
    const index = this.personOf[this.ids.find(id) ?? -1];
    return index === undefined || index < 0 ? undefined : index;
  }

  /** Index of the group with an id, or undefined. */
  findGroup(id: string): number | undefined {
    const index = this.groupOf[this.ids.find(id) ?? -1];
    return index === undefined || index < 0 ? undefined : index;
  }

  /** Works out again who everybody is and whom each group holds. Audiences must be asked for again. */
  settle(homeDomains: readonly string[]) {
    if (homeDomains !== this.homeDomains) {
      this.homeDomains = homeDomains;
      for (const person of this.people) person.insider = this.isInsider(person.address);
    }
    this.settlePeople();
    this.poolLength = 0;
    this.self = [];
    this.settleGroups();
  }

  /** Works out group members again. People and other audiences stay as they are. */
  settleGroups() {
    this.linkGroups();
    const closures = closuresOf({ subgroups: this.subgroups, people: this.direct });
    const members = new Map<Int32Array, Members>();
    this.ofGroup = closures.map((closure) => {
      const known = members.get(closure) ?? this.audience(closure);
      members.set(closure, known);
      return known;
    });
  }

  private settlePeople() {
    for (const handle of this.personOf.keys()) this.personOf[handle] = -1;
    const told = (this.told = new Map<number, Sourced<PersonRecord>[]>());
    for (const [id, record] of this.personRecords) {
      const index = this.indexById.get(id)!;
      this.personOf[this.handle(id)] = index;
      const records = told.get(index);
      if (records) records.push(record);
      else told.set(index, [record]);
    }
    for (const person of this.people) {
      Object.assign(person, this.believedOf(person, told.get(person.index)));
      this.personOf[this.handle(`mailto:${person.address}`)] = person.index;
      this.keepColumns(person.index);
    }
  }

  /** Whoever has no record any more, or never had one, is known by their address alone. */
  private believedOf({ address }: Person, records: readonly Sourced<PersonRecord>[] | undefined): Partial<Person> {
    if (!records) return { id: `mailto:${address}`, name: address, ...UNTOLD };
    const { first, from: _, status, ...told } = believed(records, this.belief);
    const wasThere = status === "left" && told.leftAt !== null && told.leftAt > this.asAt;
    return { id: first.id, status: wasThere ? "active" : status, ...told };
  }

  /** Every record of a person, in no particular order. */
  recordsOf(person: number): Sourced<PersonRecord>[] {
    return [...(this.told.get(person) ?? [])];
  }

  /** Names of the sources that have a record of a person, in the order of belief. */
  sourcesOf(person: number): string[] {
    const sources = [...new Set(this.told.get(person)?.map(({ source = "" }) => source))].map((source) => ({ source }));
    if (sources.length > 1) sources.sort(byBelief(this.belief));
    return sources.map(({ source }) => source);
  }

  /** Whether a source has a record of a person, and so understands a change that names them. */
  isNamedBy(person: number, source: string | undefined): boolean {
    return this.told.get(person)?.some((record) => record.source === source) ?? false;
  }

  private keepColumns(index: number) {
    const { organisation: name, status, insider } = this.people[index];
    let organisation = this.organisationIndex.get(name);
    if (organisation === undefined) {
      organisation = this.organisations.push(name) - 1;
      this.organisationIndex.set(name, organisation);
    }
    this.organisationOf = grown(this.organisationOf, index + 1);
    this.active = grown(this.active, index + 1);
    this.insider = grown(this.insider, index + 1);
    this.organisationOf[index] = organisation;
    this.active[index] = status === "active" ? 1 : 0;
    this.insider[index] = insider ? 1 : 0;
  }

  private linkGroups() {
    this.groups.length = 0;
    this.groups.push(...this.groupRecords.values());
    this.groupOf.fill(-1);
    for (const [index, { id }] of this.groups.entries()) this.groupOf[this.handle(id)] = index;
    this.subgroups = this.groups.map(() => []);
    this.groupsAbove = this.groups.map(() => []);
    this.direct = this.groups.map(() => []);
    this.directSets = [];
    this.directGroups = undefined;
    const stands = this.groupsThatStandForOthers();
    for (const [group, other] of stands) this.putBelow(other, group);
    for (const { group: holder, member } of this.membershipRecords.values()) {
      const group = this.groupOf[holder];
      if (group < 0 || stands.has(group)) continue;
      const person = this.personOf[member];
      const subgroup = this.groupOf[member];
      if (person >= 0) this.direct[group].push(person);
      else if (subgroup >= 0) this.putBelow(subgroup, group);
    }
    for (const below of this.subgroups) below.sort((a, b) => (this.groups[a].id < this.groups[b].id ? -1 : 1));
  }

  private putBelow(subgroup: number, group: number) {
    this.subgroups[group].push(subgroup);
    this.groupsAbove[subgroup].push(group);
  }

  /** By group that is another one: that other. A store says so of its groups, by a directory's address or id. */
  private groupsThatStandForOthers(): Map<number, number> {
    const own = this.groups.map((group, index) => ({ ...group, index })).filter(({ sameAs }) => sameAs == null);
    const named = new Map(own.map(({ id, index }) => [id, index]));
    for (const { email, index } of own) if (email != null) named.set(normaliseAddress(email), index);
    const found = new Map<number, number>();
    for (const [index, { sameAs }] of this.groups.entries()) {
      const other = sameAs == null ? undefined : (named.get(sameAs) ?? named.get(normaliseAddress(sameAs)));
      if (other !== undefined) found.set(index, other);
    }
    return found;
  }

  /** Puts the active ones among some people into the pool. @param people each of them once */
  audience(people: ArrayLike<number>): Members {
    const from = this.poolLength;
    this.pool = grown(this.pool, from + people.length);
    const insidersFrom = this.addToPool(people, 0);
    const to = this.addToPool(people, 1);
    return from === to ? NOBODY : { from, insidersFrom, to };
  }

  private addToPool(people: ArrayLike<number>, insider: 0 | 1): number {
    for (let i = 0; i < people.length; i++)
      if (this.active[people[i]] === 1 && this.insider[people[i]] === insider) this.pool[this.poolLength++] = people[i];
    return this.poolLength;
  }

  /** The audience of whatever a handle means: a group with all within it, or a person alone; null for neither. */
  audienceOf(handle: number): Members | null {
    const group = this.groupOf[handle];
    if (group >= 0) return this.ofGroup[group];
    const person = this.personOf[handle];
    return person < 0 ? null : (this.self[person] ??= this.audience([person]));
  }

  /** Indexes of the active people in a group or in a group within it, however deep; outsiders first. */
  closure(group: number): Int32Array {
    const { from, to } = this.ofGroup[group];
    return this.pool.subarray(from, to);
  }

  /** Indexes of the people who are members of the group itself. */
  directPeople(group: number): ReadonlySet<number> {
    return (this.directSets[group] ??= new Set(this.direct[group]));
  }

  directGroupsOf(person: number): readonly number[] {
    if (!this.directGroups) {
      this.directGroups = new Map();
      for (const group of this.direct.keys())
        for (const member of this.directPeople(group)) {
          const groups = this.directGroups.get(member);
          if (groups) groups.push(group);
          else this.directGroups.set(member, [group]);
        }
    }
    return this.directGroups.get(person) ?? [];
  }

  /** Groups that hold a group themselves. */
  holdersOf(group: number): readonly number[] {
    return this.groupsAbove[group];
  }

  /**
   * Every group that a person is in, directly or by groups within it.
   * @param left groups to be treated as left; @param joined groups to be treated as joined
   */
  groupsOf(person: number, left?: ReadonlySet<number>, joined?: ReadonlySet<number>): Set<number> {
    const found = new Set<number>(joined);
    for (const group of this.directGroupsOf(person)) if (!left?.has(group)) found.add(group);
    // What is added to a set while iterating is visited too.
    for (const group of found) for (const above of this.groupsAbove[group]) found.add(above);
    return found;
  }

  /**
   * The shortest chain of group ids from a group down to one that holds the person directly; of equally
   * short ones the first in order of ids. Null if there is none.
   */
  chain(group: number, person: number): string[] | null {
    const cameFrom = new Map([[group, -1]]);
    for (const within of cameFrom.keys()) {
      if (this.directPeople(within).has(person)) return this.trail(cameFrom, within);
      for (const below of this.subgroups[within]) if (!cameFrom.has(below)) cameFrom.set(below, within);
    }
    return null;
  }

  private trail(cameFrom: ReadonlyMap<number, number>, last: number): string[] {
    const ids: string[] = [];
    for (let at = last; at >= 0; at = cameFrom.get(at)!) ids.unshift(this.groups[at].id);
    return ids;
  }
}
