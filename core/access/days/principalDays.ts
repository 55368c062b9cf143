import { domainOf, isHomeDomain, normaliseAddress, normaliseDomain } from "../../estate/address";
import { believed, type Sourced } from "../../estate/believed";
import type { Estate } from "../../estate/estate";
import { type PersonRecord, recordKey } from "../../estate/records";
import { seconds } from "../../time/instant";
import { both, minus, type Ranges, union } from "../ranges";
import type { Changes } from "./changes";
import type { Instants } from "./instants";

interface Spell<R> {
  record: R;
  ranges: Ranges;
}
const NEVER_SO: Ranges = [];

/** At which of many instants somebody was an active outsider, and groups held such a person, be it in a group within. */
export class PrincipalDays {
  /** By type and key: since when what holds now has held, where that isn't from the beginning. */
  private readonly since = new Map<string, Map<string, Ranges>>();
  private readonly outsideByIndex: (Ranges | undefined)[] = [];
  /** By address: the records of a person that no longer hold. */
  private readonly formerly = new Map<string, Spell<Sourced<PersonRecord>>[]>();
  /** By id of a person, or of a group: when records of that id held that no longer do. */
  private readonly former = new Map<string, Ranges>();
  /** When which domains were our own. */
  private readonly homes: Spell<readonly string[]>[];
  private readonly outsideByAddress = new Map<string, Ranges>();
  private readonly outsideByGroup: Map<string, Ranges>;

  constructor(
    private readonly estate: Estate,
    private readonly changes: Changes,
    private readonly instants: Instants,
  ) {
    for (const { type, key, from } of changes.begun) {
      const ofType = this.since.get(type) ?? new Map<string, Ranges>();
      this.since.set(type, ofType.set(key, instants.since(from)));
    }
    this.homes = [{ record: estate.homeDomains, ranges: this.sinceOf("estate", "estate") }];
    for (const { record, from, to } of changes.ended) {
      const ranges = instants.between(from, to);
      if (record.type === "estate") this.homes.push({ record: record.homeDomains.map(normaliseDomain), ranges });
      if (record.type === "person") push(this.formerly, normaliseAddress(record.email), { record, ranges });
      if (record.type === "person" || record.type === "group")
        this.former.set(record.id, union([...(this.former.get(record.id) ?? []), ...ranges]));
    }
    this.outsideByGroup = this.ofGroups();
  }

  /** When somebody was an active outsider. People without a record are known by their address alone. */
  outsider(address: string): Ranges {
    const plain = normaliseAddress(address);
    let ranges = this.outsideByAddress.get(plain);
    if (ranges === undefined) this.outsideByAddress.set(plain, (ranges = this.whenOutside(plain)));
    return ranges;
  }

  /** The same by the person's index. */
  outsiderAt(person: number): Ranges {
    return (this.outsideByIndex[person] ??= this.whenOutside(this.estate.people[person].address));
  }

  /** The same for the person or group that an id stood for; and which of the two a grant to it let in. */
  granted(id: string): { way: "person" | "group"; ranges: Ranges } {
    const group = this.outsideByGroup.get(id);
    return group ? { way: "group", ranges: group } : { way: "person", ranges: this.personById(id) };
  }

  private personById(id: string): Ranges {
    const { principals, people } = this.estate;
    const index = principals.findPerson(id);
    const now = index === undefined ? NEVER_SO : this.sinceOf("person", id);
    const former = this.former.get(id);
    if (index !== undefined && !former && now === this.instants.always) return this.outsiderAt(index);
    const address = index === undefined ? this.formerAddress(id) : people[index].address;
    return address === undefined ? NEVER_SO : both(this.outsider(address), union([...(former ?? []), ...now]));
  }

  private formerAddress(id: string): string | undefined {
    for (const [address, spells] of this.formerly) if (spells.some(({ record }) => record.id === id)) return address;
    return undefined;
  }

  private sinceOf(type: string, key: string): Ranges {
    return this.since.get(type)?.get(key) ?? this.instants.always;
  }

  private whenOutside(address: string): Ranges {
    const { principals } = this.estate;
    const index = principals.findAddress(address);
    const now = index === undefined ? [] : principals.recordsOf(index);
    if (index !== undefined && this.wasAsNow(address, now)) {
      const { status, insider } = this.estate.people[index];
      return status === "active" && !insider ? this.instants.always : NEVER_SO;
    }
    const active = this.whenActive([
      ...(this.formerly.get(address) ?? []),
      ...now.map((record) => ({ record, ranges: this.sinceOf("person", record.id) })),
    ]);
    const isInside = (domains: readonly string[]) => isHomeDomain(domainOf(address), domains);
    const inside = union(this.homes.flatMap(({ record, ranges }) => (isInside(record) ? ranges : NEVER_SO)));
    return both(active, minus(this.instants.always, inside));
  }

  /** Whether nothing that is told of somebody now was otherwise before. */
  private wasAsNow(address: string, now: readonly Sourced<PersonRecord>[]): boolean {
    if (this.homes.length > 1 || this.formerly.has(address)) return false;
    return now.every(({ id, leftAt }) => !leftAt && this.sinceOf("person", id) === this.instants.always);
  }

  private whenActive(spells: readonly Spell<Sourced<PersonRecord>>[]): Ranges {
    const bounds = new Set([0, this.instants.count]);
    for (const { record, ranges } of spells) {
      for (const at of ranges) bounds.add(at);
      // Whoever has left was there until then.
      if (record.leftAt) bounds.add(this.instants.indexOf(seconds(record.leftAt)));
    }
    const sorted = [...bounds].sort((a, b) => a - b);
    const active: number[] = [];
    for (let i = 0; i + 1 < sorted.length; i++) {
      const held = spells.filter(({ ranges }) => both(ranges, [sorted[i], sorted[i] + 1]).length > 0);
      const records = held.map(({ record }) => record);
      if (this.isActive(records, this.instants.all[sorted[i]])) active.push(sorted[i], sorted[i + 1]);
    }
    return union(active);
  }

  private isActive(records: readonly Sourced<PersonRecord>[], at: number): boolean {
    if (records.length === 0) return true;
    const { status, leftAt } = believed(records, this.estate.principals.belief);
    return status === "active" || (status === "left" && leftAt !== null && leftAt > at);
  }

  /**
   * By id of each group. A group may hold one that holds it: so each is worked out again until nothing is added by any of
   * those that it holds.
   */
  private ofGroups(): Map<string, Ranges> {
    const { principals } = this.estate;
    const isThere = new Map(principals.groups.map(({ id }) => [id, this.sinceOf("group", id)]));
    for (const { record } of this.changes.ended)
      if (record.type === "group")
        isThere.set(record.id, union([...(isThere.get(record.id) ?? []), ...this.former.get(record.id)!]));
    const holds = this.memberships(isThere);
    const above = new Map<string, string[]>();
    for (const [group, members] of holds) for (const { record } of members) push(above, record, group);
    const found = new Map<string, Ranges>([...isThere.keys()].map((id) => [id, NEVER_SO]));
    const waiting = new Set(holds.keys());
    for (const group of waiting) {
      waiting.delete(group);
      const inside = (holds.get(group) ?? []).flatMap(({ record, ranges }) =>
        both(ranges, found.get(record) ?? this.personById(record)),
      );
      const ranges = both(union(inside), isThere.get(group) ?? NEVER_SO);
      if (ranges.join() === found.get(group)?.join()) continue;
      found.set(group, ranges);
      for (const holder of above.get(group) ?? []) waiting.add(holder);
    }
    return found;
  }

  /** By group: which members it had, and when. A group that stands for another has that one for its only member. */
  private memberships(groups: ReadonlyMap<string, Ranges>): Map<string, Spell<string>[]> {
    const { principals } = this.estate;
    const holds = new Map<string, Spell<string>[]>();
    const stands = principals.standIns();
    for (const record of principals.memberships())
      if (!stands.has(record.groupId))
        push(holds, record.groupId, { record: record.memberId, ranges: this.sinceOf("member", recordKey(record)) });
    for (const { record, from, to } of this.changes.ended)
      if (record.type === "member" && !stands.has(record.groupId))
        push(holds, record.groupId, { record: record.memberId, ranges: this.instants.between(from, to) });
    for (const [group, other] of stands) push(holds, group, { record: other, ranges: groups.get(other) ?? NEVER_SO });
    return holds;
  }
}

function push<K, V>(lists: Map<K, V[]>, key: K, value: V) {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
