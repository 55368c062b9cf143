import type { Estate } from "../../estate/estate";
import type { ShareRecord } from "../../estate/records";
import { OPEN, PEOPLE } from "../../estate/shares";
import { NEVER, seconds, type Seconds } from "../../time/instant";
import type { OutsideCount } from "../history";
import { both, type Ranges, union } from "../ranges";
import type { Changes } from "./changes";
import { Instants, stretch } from "./instants";
import { ItemDays } from "./itemDays";
import { PrincipalDays } from "./principalDays";

type Way = Exclude<keyof OutsideCount, "at">;

/**
 * How many outside shares were live at each of many instants, from the estate of now and what became otherwise since:
 * each share is counted in where it becomes one, and out where it stops being one. Evaluating each instant by itself
 * the same.
 *
 * @param at sorted; @param changes since the first of the instants
 */
export function outsideByDay(estate: Estate, changes: Changes, at: readonly Seconds[]): OutsideCount[] {
  const instants = new Instants(at);
  const counting = new Counting(instants);
  const shares = new ShareDays(estate, changes, instants);
  shares.countNow(counting);
  for (const { record, from, to } of changes.ended)
    if (record.type === "grant" || record.type === "link") shares.count(counting, record, instants.between(from, to));
  return counting.sums();
}

/**
 * Whether `outsideByDay` can tell. Not where groups have changed while some of them stand for others: then whom a group
 * held can't be told from what it holds now, and all facts have to be gone through.
 */
export function isToldByDay({ principals }: Estate, { ended, begun }: Changes): boolean {
  const isOtherwise = begun.some(({ type }) => type === "group") || ended.some(({ record }) => record.type === "group");
  const stoodForOther = ended.some(({ record }) => record.type === "group" && record.sameAs != null);
  return !isOtherwise || (principals.standIns().size === 0 && !stoodForOther);
}

class Counting {
  private readonly changes: Record<Way, Int32Array>;

  constructor(private readonly instants: Instants) {
    const changes = () => new Int32Array(instants.count + 1);
    this.changes = { open: changes(), named: changes(), person: changes(), group: changes() };
  }

  add(way: Way, ranges: Ranges) {
    for (let i = 0; i < ranges.length; i += 2) this.addStretch(way, ranges[i], ranges[i + 1]);
  }

  addStretch(way: Way, from: number, to: number) {
    this.changes[way][from]++;
    this.changes[way][to]--;
  }

  sums(): OutsideCount[] {
    const sums = { open: 0, named: 0, person: 0, group: 0 };
    return this.instants.all.map((at, i) => {
      for (const way of Object.keys(sums) as Way[]) sums[way] += this.changes[way][i];
      return { at, ...sums };
    });
  }
}

class ShareDays {
  private readonly items: ItemDays;
  private readonly principals: PrincipalDays;
  /** By handle. */
  private readonly granted: (ReturnType<PrincipalDays["granted"]> | undefined)[] = [];

  constructor(
    private readonly estate: Estate,
    changes: Changes,
    private readonly instants: Instants,
  ) {
    this.items = new ItemDays(estate, changes, instants);
    this.principals = new PrincipalDays(estate, changes, instants);
  }

  /** Counts what holds now. */
  countNow(counting: Counting) {
    const { shares } = this.estate;
    const { instants } = this;
    for (let slot = 0; slot < shares.count; slot++) {
      const audience = shares.audience[slot];
      const item = shares.item[slot];
      if (item < 0 || (audience !== OPEN && audience !== PEOPLE) || shares.isSpent(slot)) continue;
      const simple = this.items.simplyLiveSince(item);
      const from = Math.max(instants.indexOf(Math.max(shares.since[slot], shares.opens[slot])), simple);
      const to = Math.min(instants.indexOf(shares.expires[slot]), instants.indexOf(shares.revoked[slot]));
      if (from >= to) continue;
      const { way, ranges } = audience === OPEN ? this.open : this.audienceOf(slot);
      if (simple >= 0 && ranges === instants.always) counting.addStretch(way, from, to);
      else {
        const on = both([from, to], ranges);
        counting.add(way, simple >= 0 ? on : both(on, this.items.live(item)));
      }
    }
  }

  /** Counts what held for a time. */
  count(counting: Counting, record: ShareRecord, held: Ranges) {
    const isLink = record.type === "link";
    if (isLink && (record.role === "deposit" || record.reach === "house")) return;
    if (isLink && record.maxUses !== null && record.uses >= record.maxUses) return;
    const slot = this.estate.items.find(record.itemId);
    if (slot === undefined) return;
    const at = (text: string | null | undefined, otherwise: Seconds) => (text ? seconds(text) : otherwise);
    const begins = isLink && record.opensAt ? this.instants.indexOf(seconds(record.opensAt)) : 0;
    const ends = Math.min(at(record.expiresAt, NEVER), at(record.revokedAt, NEVER));
    const on = both(held, stretch(begins, this.instants.indexOf(ends)));
    const { way, ranges } = this.audienceOfRecord(record);
    counting.add(way, both(both(on, ranges), this.items.live(slot)));
  }

  private get open(): { way: Way; ranges: Ranges } {
    return { way: "open", ranges: this.instants.always };
  }

  private audienceOf(slot: number): { way: Way; ranges: Ranges } {
    const { shares, principals } = this.estate;
    const to = shares.to[slot];
    if (to >= 0) return (this.granted[to] ??= this.principals.granted(principals.idOfHandle(to)));
    const people = shares.recipients.subarray(shares.recipientsFrom[slot], shares.recipientsTo[slot]);
    if (people.length === 1) return { way: "named", ranges: this.principals.outsiderAt(people[0]) };
    return { way: "named", ranges: this.anyOf(Array.from(people, (person) => this.principals.outsiderAt(person))) };
  }

  private audienceOfRecord(record: ShareRecord): { way: Way; ranges: Ranges } {
    if (record.type === "grant") return this.principals.granted(record.toId);
    if (record.reach === "open") return this.open;
    return { way: "named", ranges: this.anyOf(record.recipients.map(({ email }) => this.principals.outsider(email))) };
  }

  private anyOf(all: readonly Ranges[]): Ranges {
    const { always } = this.instants;
    const isAlways = all.some((one) => one.length === 2 && one[0] === 0 && one[1] === always[1]);
    return isAlways ? always : union(all.flat());
  }
}
