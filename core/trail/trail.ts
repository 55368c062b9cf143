import { grown } from "../estate/grow";
import { wordsIn } from "../text/text";
import type { Instants, Seconds } from "../time/instant";
import { type TrailEvent, type Part, PARTS, remarksIn } from "./event";
import { Chains } from "./chains";
import { PARTS_OF_SIDE, PARTS_WITH_PEOPLE } from "./meets";
import { Rollup } from "./rollup";
import type { TrailSearch } from "./search";
import { type Asked, SpokenIndex } from "./spokenIndex";

/** An event as it stands in the columns: parts by number, 0 where there is none; remarks as bits. */
export type EventRow = Record<Part, number> & {
  seq: number;
  at: Seconds;
  source: string;
  verb: string;
  remarks: number;
};

type Rows = Uint32Array<ArrayBuffer>;
/** By number of what is referred to: 1 where a word begins a word of it. */
export type FlagsOfWord = (word: string) => Uint8Array;

/** Events of which one of some parts is flagged. */
interface Condition {
  flags: Uint8Array;
  parts: readonly Part[];
  /** How many things are flagged. */
  size: number;
}

interface Compiled {
  /** The one that the fewest things meet comes first. */
  conditions: Condition[];
  kinds: Uint8Array;
  first: number;
  last: number;
}

const BLOCK = 1 << 15;
/** Up to this many things, each of their events is looked at; and up to this many events, one after the other. */
const FEW_THINGS = 256;
const FEW_EVENTS = 1 << 14;

/** Every event in columns, in the order of time; events of one second in the order in which they came. */
export class Trail {
  length = 0;
  at: Instants = new Float64Array(0);
  seq = new Uint32Array(0);
  /** Verb and source together, as a number of `kinds`. */
  kind = new Uint16Array(0);
  remarks = new Uint8Array(0);
  readonly parts: Record<Part, Uint32Array> = {
    who: new Uint32Array(0),
    item: new Uint32Array(0),
    share: new Uint32Array(0),
    whom: new Uint32Array(0),
  };
  readonly spoken = new SpokenIndex();
  readonly kinds: { verb: string; source: string }[] = [];
  readonly rollup = new Rollup(this);
  private readonly chains = new Chains();
  /** By number of what is referred to: a bit for each part in which it occurs anywhere. */
  private usedIn = new Uint8Array(0);
  private readonly kindNumbers = new Map<string, number>();

  /** @param fewActs up to how many events are looked at one after the other; more are looked for among all */
  constructor(private readonly fewEvents = FEW_EVENTS) {}

  /** Takes in events in any order. What they refer to must be in `spoken` already. */
  take(events: readonly EventRow[]) {
    const ordered = [...events].sort((a, b) => a.at - b.at || a.seq - b.seq);
    if (ordered.length === 0) return;
    this.chains.cut(this.parts, this.rowAt(ordered[0].at + 1));
    this.grow(this.length + events.length);
    // From the end: each goes after all earlier ones, which for most is where it already is.
    let from = this.length - 1;
    let to = this.length + ordered.length - 1;
    for (let i = ordered.length - 1; i >= 0; i--, to--) {
      for (; from >= 0 && this.at[from] > ordered[i].at; from--, to--) this.copy(from, to);
      this.write(to, ordered[i]);
    }
    this.length += ordered.length;
    this.rollup.changedFrom(to + 1);
  }

  /** Rows of all events that a search finds, in the order of time. */
  find(search: TrailSearch, flags: FlagsOfWord): Rows {
    const compiled = this.compiled(search, flags);
    const { conditions, kinds, first, last } = compiled;
    const few = this.fewOf(compiled);
    if (few) return few;
    const rows = new Uint32Array(last - first);
    const count = this.narrow(rows, first, last, kinds, conditions);
    return rows.subarray(0, count);
  }

  /**
   * Rows of the newest that a search finds, the newest first; looked for from the end on, and no further than needed.
   * @param before only events before this row
   */
  newest(search: TrailSearch, flags: FlagsOfWord, count: number, before = this.length): number[] {
    const compiled = this.compiled(search, flags);
    const { conditions, kinds, first } = compiled;
    const last = Math.min(compiled.last, before);
    const few = this.fewOf({ ...compiled, last });
    if (few) return Array.from(few.subarray(Math.max(few.length - count, 0))).reverse();
    const found: number[] = [];
    const rows = new Uint32Array(BLOCK);
    for (let end = last; end > first && found.length < count; end -= BLOCK) {
      const held = this.narrow(rows, Math.max(first, end - BLOCK), end, kinds, conditions);
      for (let i = held - 1; i >= 0 && found.length < count; i--) found.push(rows[i]);
    }
    return found;
  }

  /** The first row at or after an instant. */
  rowAt(at: Seconds): number {
    let [low, high] = [0, this.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.at[middle] < at) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The row after the last that is not newer than an event, which may itself not be here. */
  rowBefore(at: Seconds, seq: number): number {
    let row = this.rowAt(at);
    while (row < this.length && this.at[row] === at && this.seq[row] < seq) row++;
    return row;
  }

  event(row: number): TrailEvent {
    const { verb, source } = this.kinds[this.kind[row]];
    const parts = PARTS.map((part) => [part, this.spoken.all[this.parts[part][row]] ?? null]);
    const remarks = remarksIn(this.remarks[row]);
    return { seq: this.seq[row], at: this.at[row], source, verb, remarks, ...Object.fromEntries(parts) };
  }

  /** By kind: 1 where verb and source are among those asked for. */
  kindsOf({ verbs, stores }: Pick<TrailSearch, "verbs" | "stores">): Uint8Array {
    const isIn = (asked: readonly string[], value: string) => asked.length === 0 || asked.includes(value);
    return Uint8Array.from(this.kinds, ({ verb, source }) => Number(isIn(verbs, verb) && isIn(stores, source)));
  }

  /** The rows between which a search's instants lie. */
  range({ from, to }: Pick<TrailSearch, "from" | "to">): [first: number, last: number] {
    const first = from === null ? 0 : this.rowAt(from);
    return [first, Math.max(first, to === null ? this.length : this.rowAt(to))];
  }

  private compiled(search: TrailSearch, flags: FlagsOfWord): Compiled {
    const [first, last] = this.range(search);
    return { conditions: this.conditions(search, flags), kinds: this.kindsOf(search), first, last };
  }

  private conditions(search: TrailSearch, flags: FlagsOfWord): Condition[] {
    const conditions: Condition[] = [];
    const put = (flags: Uint8Array, parts: readonly Part[]) => conditions.push(this.condition(flags, parts));
    const add = (asked: Asked, values: readonly (string | null)[], parts: readonly Part[]) => {
      const given = values.filter((value) => value !== null);
      if (given.length > 0) put(this.spoken.flags(asked, given), parts);
    };
    if (search.item !== null) put(this.spoken.flagsBelow(search.item), ["item"]);
    add("share", [search.share], ["share"]);
    add("person", [search.person], PARTS_OF_SIDE[search.side]);
    add("label", search.labels, ["item"]);
    add("organisation", search.organisations, PARTS_WITH_PEOPLE);
    add("party", search.parties, PARTS_WITH_PEOPLE);
    for (const word of wordsIn(search.words)) put(flags(word), PARTS);
    // A condition that few things meet leaves few events for the others.
    return conditions.sort((a, b) => a.size - b.size);
  }

  /** All rows found, where something is asked for that few events speak of; else null. */
  private fewOf({ conditions, kinds, first, last }: Compiled): Rows | null {
    const [rarest, ...others] = conditions;
    if (!rarest || rarest.size > FEW_THINGS) return null;
    this.chains.link(this.parts, this.length, this.spoken.all.length);
    const numbers: number[] = [];
    for (let number = 0; number < rarest.flags.length; number++) if (rarest.flags[number] === 1) numbers.push(number);
    const rows = this.chains.rowsOf(numbers, rarest.parts, [first, last], this.fewEvents);
    if (rows === null) return null;
    return rows.subarray(0, this.leave(rows, this.ofKinds(rows, rows.length, kinds), others));
  }

  /** Only those parts are looked at in which something that is flagged ever stands. */
  private condition(flags: Uint8Array, parts: readonly Part[]): Condition {
    let [used, size] = [0, 0];
    for (let number = 0; number < flags.length; number++) {
      used |= flags[number] === 1 ? this.usedIn[number] : 0;
      size += flags[number];
    }
    const looked = parts.filter((part) => (used >> PARTS.indexOf(part)) & 1);
    return { flags, size, parts: looked.length > 0 ? looked : parts.slice(0, 1) };
  }

  /** Writes those rows of a range that meet everything; each condition goes once over those that are left. */
  private narrow(into: Uint32Array, first: number, last: number, kinds: Uint8Array, conditions: Condition[]): number {
    const { kind } = this;
    let count = 0;
    for (let row = first; row < last; row++) {
      into[count] = row;
      count += kinds[kind[row]];
    }
    return this.leave(into, count, conditions);
  }

  /** Leaves those rows whose verb and source are asked for. @returns how many they are */
  private ofKinds(rows: Uint32Array, held: number, kinds: Uint8Array): number {
    const { kind } = this;
    let count = 0;
    for (let i = 0; i < held; i++) {
      const row = rows[i];
      rows[count] = row;
      count += kinds[kind[row]];
    }
    return count;
  }

  /** Leaves those rows that meet all conditions. @returns how many they are */
  private leave(into: Uint32Array, held: number, conditions: readonly Condition[]): number {
    let count = held;
    for (const { flags, parts } of conditions) {
      const columns = parts.map((part) => this.parts[part]);
      count = columns.length === 1 ? byOne(into, count, flags, columns[0]) : byAny(into, count, flags, columns);
    }
    return count;
  }

  private grow(length: number) {
    this.at = grown(this.at, length);
    this.seq = grown(this.seq, length);
    this.kind = grown(this.kind, length);
    this.remarks = grown(this.remarks, length);
    this.usedIn = grown(this.usedIn, this.spoken.all.length);
    for (const part of PARTS) this.parts[part] = grown(this.parts[part], length);
  }

  private copy(from: number, to: number) {
    for (const column of this.columns) column[to] = column[from];
  }

  private get columns() {
    return [this.at, this.seq, this.kind, this.remarks, ...PARTS.map((part) => this.parts[part])];
  }

  private write(row: number, event: EventRow) {
    this.at[row] = event.at;
    this.seq[row] = event.seq;
    this.kind[row] = this.kindNumber(event);
    this.remarks[row] = event.remarks;
    PARTS.forEach((part, bit) => {
      this.parts[part][row] = event[part];
      this.usedIn[event[part]] |= 1 << bit;
    });
  }

  private kindNumber({ verb, source }: EventRow): number {
    const key = `${verb}\n${source}`;
    let number = this.kindNumbers.get(key);
    if (number === undefined) {
      number = this.kinds.push({ verb, source }) - 1;
      this.kindNumbers.set(key, number);
    }
    return number;
  }
}

/** Leaves the rows of which a column's thing is flagged. @returns how many they are */
function byOne(rows: Uint32Array, held: number, flags: Uint8Array, column: Uint32Array): number {
  let count = 0;
  for (let i = 0; i < held; i++) {
    const row = rows[i];
    rows[count] = row;
    count += flags[column[row]];
  }
  return count;
}

/** The same for any of two to four columns: always four reads, some of the same column, which is cheaper than a loop. */
function byAny(rows: Uint32Array, held: number, flags: Uint8Array, columns: readonly Uint32Array[]): number {
  const [a, b, c, d] = [0, 1, 2, 3].map((i) => columns[i % columns.length]);
  let count = 0;
  for (let i = 0; i < held; i++) {
    const row = rows[i];
    rows[count] = row;
    count += flags[a[row]] | flags[b[row]] | flags[c[row]] | flags[d[row]];
  }
  return count;
}
