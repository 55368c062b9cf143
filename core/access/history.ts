import { normaliseDomain } from "../estate/address";
import { Principals } from "../estate/principals";
import type { Belief, Sourced } from "../estate/believed";
import type { PersonRecord, ShareRecord } from "../estate/records";
import { NEVER, type Seconds, seconds } from "../time/instant";
import { both, type Ranges, union } from "./ranges";

/** A record and the period in which it held: from `from` on, and no more at `to`. */
export interface Held {
  record: Sourced;
  /** ALWAYS where it has held since before we looked. */
  from: Seconds;
  /** NEVER where it still holds. */
  to: Seconds;
}

/** How many outside shares were live at an instant, by the way in which they let people in. */
export interface OutsideCount {
  at: Seconds;
  open: number;
  named: number;
  person: number;
  group: number;
}

type Way = Exclude<keyof OutsideCount, "at">;

/**
 * How many outside shares were live at each of many instants, in one pass over the ends of periods: each
 * share is counted in where it begins to be one and out where it ceases, so that no instant is evaluated.
 * What an instant would say by itself is the same.
 *
 * @param instants sorted
 */
export function outsideSharesOver(
  facts: Iterable<Held>,
  instants: readonly Seconds[],
  belief: Belief = [],
): OutsideCount[] {
  const history = new OutsideHistory(instants, belief);
  for (const fact of facts) history.take(fact);
  return history.counts();
}

interface Live {
  parentId: string | null;
}

interface Period<R> {
  record: R;
  /** Indexes of the instants in which it held. */
  from: number;
  to: number;
}

/** A time in which nobody's status, group or house changed. */
interface Epoch {
  from: number;
  to: number;
  principals: Principals;
}

const PRINCIPAL_TYPES = new Set(["estate", "person", "group", "member"]);

/** The same, fact by fact: of most, little is kept. */
export class OutsideHistory {
  private readonly items = new Map<string, Period<Live>[]>();
  private readonly shares = new Map<string, Period<ShareRecord>[]>();
  private readonly principals: Period<Sourced>[] = [];
  private readonly liveById = new Map<string, Ranges>();

  /** @param instants sorted */
  constructor(
    private readonly instants: readonly Seconds[],
    private readonly belief: Belief,
  ) {}

  take({ record, from: begins, to: ends }: Held) {
    const [from, to] = [this.indexOf(begins), this.indexOf(ends)];
    if (from === to) return;
    if (record.type === "item") {
      const { id, parentId, state } = record;
      if (state === "live") append(this.items, id, { record: { parentId }, from, to });
    } else if (record.type === "grant" || record.type === "link") append(this.shares, record.id, { record, from, to });
    else if (PRINCIPAL_TYPES.has(record.type)) this.principals.push({ record, from, to });
  }

  counts(): OutsideCount[] {
    const changes: Record<Way, Int32Array> = {
      open: new Int32Array(this.instants.length + 1),
      named: new Int32Array(this.instants.length + 1),
      person: new Int32Array(this.instants.length + 1),
      group: new Int32Array(this.instants.length + 1),
    };
    for (const { way, ranges } of this.outsideShares())
      for (let i = 0; i < ranges.length; i += 2) {
        changes[way][ranges[i]]++;
        changes[way][ranges[i + 1]]--;
      }
    const sums = { open: 0, named: 0, person: 0, group: 0 };
    return this.instants.map((at, i) => {
      for (const way of Object.keys(sums) as Way[]) sums[way] += changes[way][i];
      return { at, ...sums };
    });
  }

  /** Index of the first instant that is not before a time. */
  private indexOf(at: Seconds): number {
    let low = 0;
    let high = this.instants.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.instants[middle] < at) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** Every share with the instants in which it was a live outside share, once for each way that it had. */
  private *outsideShares(): Generator<{ way: Way; ranges: Ranges }> {
    const live = new Map<Period<ShareRecord>, Ranges>();
    for (const periods of this.shares.values())
      for (const period of periods)
        live.set(period, both(this.onDuring(period), this.liveDuring(period.record.itemId)));
    for (const { from, to, principals } of this.epochs())
      for (const [{ record }, ranges] of live) {
        const way = outsideWay(record, principals);
        const here = way === null ? [] : both(ranges, [from, to]);
        if (way !== null && here.length > 0) yield { way, ranges: here };
      }
  }

  /** When the share of a period was on, were its item live. */
  private onDuring({ record, from, to }: Period<ShareRecord>): Ranges {
    const isLink = record.type === "link";
    if (isLink && record.maxUses !== null && record.uses >= record.maxUses) return [];
    const at = (text: string | null | undefined) => (text ? seconds(text) : NEVER);
    const begins = Math.max(from, isLink && record.opensAt ? this.indexOf(seconds(record.opensAt)) : 0);
    const ends = Math.min(to, this.indexOf(at(record.expiresAt)), this.indexOf(at(record.revokedAt)));
    return begins < ends ? [begins, ends] : [];
  }

  /** When an item and all above it were live. */
  private liveDuring(id: string): Ranges {
    const known = this.liveById.get(id);
    if (known) return known;
    // On a circle of parents nothing is live.
    this.liveById.set(id, []);
    const live = (this.items.get(id) ?? []).flatMap(({ record, from, to }) => {
      return record.parentId === null ? [from, to] : [...both([from, to], this.liveDuring(record.parentId))];
    });
    const ranges = union(live);
    this.liveById.set(id, ranges);
    return ranges;
  }

  private *epochs(): Generator<Epoch> {
    const bounds = new Set([0, this.instants.length]);
    for (const { record, from, to } of this.principals) {
      bounds.add(from).add(to);
      // Whoever has left was there until then.
      if (record.type === "person" && record.leftAt) bounds.add(this.indexOf(seconds(record.leftAt)));
    }
    const sorted = [...bounds].sort((a, b) => a - b);
    for (let i = 0; i + 1 < sorted.length; i++)
      yield { from: sorted[i], to: sorted[i + 1], principals: this.principalsAt(sorted[i]) };
  }

  private principalsAt(index: number): Principals {
    const principals = new Principals();
    principals.asAt = this.instants[index];
    principals.belief = this.belief;
    let homeDomains: string[] = [];
    for (const { record, from, to } of this.principals) {
      if (from > index || to <= index) continue;
      if (record.type === "estate") homeDomains = record.homeDomains.map(normaliseDomain);
      else principals.put(record as Sourced<PersonRecord>);
    }
    principals.settle(homeDomains);
    return principals;
  }
}

/** By which way a share lets outsiders in, were it live; null where it lets in none. */
function outsideWay(record: ShareRecord, principals: Principals): Way | null {
  if (record.type === "link") {
    if (record.role === "deposit" || record.reach === "house") return null;
    if (record.reach === "open") return "open";
    const people = record.recipients.map(({ email }) => principals.people[principals.personAt(email)]);
    return people.some((person) => person.status === "active" && !person.insider) ? "named" : null;
  }
  const members = principals.audienceOf(principals.handle(record.toId));
  if (!members || members.insidersFrom === members.from) return null;
  return principals.findGroup(record.toId) === undefined ? "person" : "group";
}

function append<V>(lists: Map<string, V[]>, key: string, value: V) {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
