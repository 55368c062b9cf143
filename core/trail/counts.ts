import { byText } from "../text/text";
import { ALWAYS, HOUR, type Seconds } from "../time/instant";
import { dayBegins, dayNumber } from "../time/zoned";
import type { Part, Spoken } from "./event";
import { PARTS_WITH_PEOPLE } from "./meets";
import type { TrailSearch } from "./search";
import type { FlagsOfWord, Trail } from "./trail";

/** How many events lie in each span: from each edge up to, but not including, the next. */
export interface TrailHistogram {
  by: "day" | "hour";
  /** One more than there are counts. */
  edges: Seconds[];
  counts: number[];
}

export interface ValueCount {
  value: string;
  count: number;
}

/** How many events a search finds over time, and by verb and store; the latter two as if the search asked about neither. */
export interface TrailCounts {
  found: number;
  total: number;
  histogram: TrailHistogram;
  verbs: ValueCount[];
  stores: ValueCount[];
}

export const TRAIL_FACETS = ["labels", "parties", "organisations", "people"] as const;
export type TrailFacet = (typeof TRAIL_FACETS)[number];
/** How many events have each value, the most first; each facet as if the search didn't ask about its own field. */
export type TrailFacets = Record<TrailFacet, { values: number; top: ValueCount[] }>;

/** Up to this length of time, counts are by the hour. */
const BY_HOUR_UP_TO = 8 * 24 * HOUR;
const MOST_BARS = 1_200;
const MOST_TOLD = 8;

/** @param zone in which days begin, by its name in the tz database */
export function trailCounts(trail: Trail, search: TrailSearch, flags: FlagsOfWord, zone: string): TrailCounts {
  const counted = asksForKindsOnly(search) ? countedByKinds(trail, search) : countedByRows(trail, search, flags);
  const edges = edgesOf(trail, search, zone);
  const counts = edges.times.slice(1).map((end, i) => counted.between(edges.times[i], end));
  const kindsMeeting = (part: "verbs" | "stores") => trail.kindsOf({ verbs: [], stores: [], [part]: search[part] });
  return {
    found: counted.found,
    total: trail.length,
    histogram: { by: edges.by, edges: edges.times, counts },
    verbs: byValue(trail, counted.kinds, kindsMeeting("stores"), "verb"),
    stores: byValue(trail, counted.kinds, kindsMeeting("verbs"), "source"),
  };
}

export function trailFacets(trail: Trail, search: TrailSearch, flags: FlagsOfWord): TrailFacets {
  const rows = trail.find(search, flags);
  const but = (field: keyof TrailSearch, none: [] | null) =>
    (search[field] as { length: number } | null)?.length ? trail.find({ ...search, [field]: none }, flags) : rows;
  return {
    labels: spokenFacet(trail, but("labels", []), ["item"], ({ label }) => (label ? [label] : [])),
    parties: spokenFacet(trail, but("parties", []), PARTS_WITH_PEOPLE, ({ parties }) => parties),
    organisations: spokenFacet(trail, but("organisations", []), PARTS_WITH_PEOPLE, (one) => one.organisations),
    people: spokenFacet(trail, but("person", null), ["who"], ({ people }) => people),
  };
}

interface Counted {
  found: number;
  /** By kind, whatever kinds were asked for. */
  kinds: Uint32Array;
  between(from: Seconds, to: Seconds): number;
}

function asksForKindsOnly({ words, person, item, share, organisations, labels, parties }: TrailSearch): boolean {
  return words.trim() === "" && !person && !item && !share && !(organisations.length + labels.length + parties.length);
}

/** Where dates, verbs and stores are all that is asked for, the rollup has the answer. */
function countedByKinds(trail: Trail, search: TrailSearch): Counted {
  const meets = trail.kindsOf(search);
  const [first, last] = trail.range(search);
  const counts = (from: number, to: number) => {
    const before = trail.rollup.before(from);
    return trail.rollup.before(to).map((count, kind) => count - before[kind]);
  };
  const sumOf = (byKind: Uint32Array) => byKind.reduce((sum, count, kind) => sum + count * meets[kind], 0);
  const kinds = counts(first, last);
  const row = (at: Seconds) => Math.min(Math.max(trail.rowAt(at), first), last);
  return { found: sumOf(kinds), kinds, between: (from, to) => sumOf(counts(row(from), row(to))) };
}

function countedByRows(trail: Trail, search: TrailSearch, flags: FlagsOfWord): Counted {
  const ofAnyKind = trail.find({ ...search, verbs: [], stores: [] }, flags);
  const kinds = new Uint32Array(trail.kinds.length);
  for (let i = 0; i < ofAnyKind.length; i++) kinds[trail.kind[ofAnyKind[i]]]++;
  const meets = trail.kindsOf(search);
  const isAnyKind = search.verbs.length + search.stores.length === 0;
  const rows = isAnyKind ? ofAnyKind : meeting(ofAnyKind, trail.kind, meets);
  const place = (at: Seconds) => firstNotBelow(rows, trail.rowAt(at));
  return { found: rows.length, kinds, between: (from, to) => place(to) - place(from) };
}

/** Those rows whose kind meets. */
function meeting(rows: Uint32Array, kind: Uint16Array, meets: Uint8Array): Uint32Array {
  const left = new Uint32Array(rows.length);
  let count = 0;
  for (let i = 0; i < rows.length; i++) {
    left[count] = rows[i];
    count += meets[kind[rows[i]]];
  }
  return left.subarray(0, count);
}

/** Index of the first of some rising numbers that is not below a number. */
function firstNotBelow(numbers: Uint32Array, number: number): number {
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (numbers[middle] < number) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Days by a zone's clocks, including shorter and longer ones; or hours, for a short period. */
function edgesOf(trail: Trail, { from, to }: TrailSearch, zone: string): { by: "day" | "hour"; times: Seconds[] } {
  if (trail.length === 0) return { by: "day", times: [] };
  const first = Math.max(from ?? ALWAYS, trail.at[0]);
  const last = Math.max(Math.min(to ?? Infinity, trail.at[trail.length - 1] + 1), first + 1);
  const by = last - first <= BY_HOUR_UP_TO ? "hour" : "day";
  // Events too old to be drawn are only part of the number found.
  const earliest = by === "hour" ? first : Math.max(first, last - MOST_BARS * 24 * HOUR);
  const day = dayNumber(earliest, zone);
  const hour = dayBegins(day, zone) + Math.floor((earliest - dayBegins(day, zone)) / HOUR) * HOUR;
  const edge = (i: number) => (by === "hour" ? hour + i * HOUR : dayBegins(day + i, zone));
  const times: Seconds[] = [];
  do times.push(edge(times.length));
  while (times[times.length - 1] < last);
  return { by, times };
}

function byValue(trail: Trail, counts: Uint32Array, meets: Uint8Array, part: "verb" | "source"): ValueCount[] {
  const byName = new Map<string, number>();
  trail.kinds.forEach((kind, number) => {
    const count = counts[number] * meets[number];
    if (count > 0) byName.set(kind[part], (byName.get(kind[part]) ?? 0) + count);
  });
  return ranked(byName);
}

/** An event counts once for a value, however many of its parts have it. */
function spokenFacet(
  trail: Trail,
  rows: Uint32Array,
  parts: readonly Part[],
  valuesOf: (spoken: Spoken) => readonly string[] | undefined,
) {
  const values = trail.spoken.all.map((spoken) => (spoken && valuesOf(spoken)) ?? []);
  const isSome = Uint8Array.from(values, ({ length }) => Number(length > 0));
  const alone = new Uint32Array(values.length);
  const counts = new Map<string, number>();
  const add = (value: string, count: number) => counts.set(value, (counts.get(value) ?? 0) + count);
  const columns = parts.map((part) => trail.parts[part]);
  for (let i = 0; i < rows.length; i++) {
    let [some, last] = [0, 0];
    for (const column of columns) {
      const number = column[rows[i]];
      some += isSome[number];
      if (isSome[number] === 1) last = number;
    }
    if (some === 1) alone[last]++;
    else if (some > 1) for (const value of new Set(columns.flatMap((column) => values[column[rows[i]]]))) add(value, 1);
  }
  alone.forEach((count, number) => count > 0 && values[number].forEach((value) => add(value, count)));
  return { values: counts.size, top: ranked(counts).slice(0, MOST_TOLD) };
}

function ranked(counts: Map<string, number>): ValueCount[] {
  const all = Array.from(counts, ([value, count]) => ({ value, count }));
  return all.sort((a, b) => b.count - a.count || byText(a.value, b.value));
}
