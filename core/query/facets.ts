import type { Register } from "../register/register";
import { byText } from "../text/text";
import { ALWAYS, DAY, type Instants, NEVER, type Seconds } from "../time/instant";
import type { Choice, Choices, Coded } from "./choices";
import { FIELDS, listedValues, type MomentName } from "./fields";
import { momentColumn } from "./select";

/** The fields by which the funnel narrows, in its order. */
export const FACETS = [
  "risk",
  "reach",
  "rule",
  "waived",
  "latch",
  "label",
  "role",
  "organisation",
  "party",
  "store",
  "department",
  "maker",
  "engagement",
  "state",
  "kind",
  "outside",
] as const;
export type FacetName = (typeof FACETS)[number];

export interface FacetValue extends Choice {
  count: number;
}

/** What would be found for each value if the query didn't ask about this field. */
export interface Facet {
  field: FacetName;
  /** How many values have any. */
  values: number;
  /** Those with the most, and those that are listed for all fields in their own order. */
  top: FacetValue[];
  /** How many have no value at all. */
  none: number;
}

/** How many lie in each span of a moment, and how many never. */
export interface Histogram {
  field: MomentName;
  counts: number[];
  never: number;
}

/**
 * Where the spans of ages end, in days: the i-th span goes from the one before up to, but not including, this. What
 * is older, or further ahead, is in a last one. Behind each stands a fact of the trade (common practice, no source):
 * a week, a fortnight, a month, the days after which shares are called dormant, a quarter, half a year, years.
 */
export const SPAN_DAYS = [0, 1, 7, 14, 30, 45, 60, 90, 120, 180, 270, 365, 540, 730, 1095] as const;

const MOST_DAYS = 1_100;
/** So many values are told in their own order; of more, those with the most shares. */
const MOST_LISTED = 8;

/** Counts of one facet. @param found what is found, were its field not asked about; @param text only values with this in them; @param most so many of them */
export function facet(choices: Choices, found: Counted, field: FacetName, text = "", most = 6): Facet {
  const coded = choices.coded(field);
  const { counts, none } = countsOf(coded, found);
  const isWanted = text === "" ? null : choices.asked(field, [{ text, exact: false }]);
  const isListed = (listedValues(field)?.length ?? Infinity) <= MOST_LISTED;
  const top = new Top(isListed ? Infinity : most, isListed ? null : coded.choices);
  let values = 0;
  for (let i = 0; i < counts.length; i++) {
    if (counts[i] === 0 || !coded.choices[i]) continue;
    values++;
    if (!isWanted || isWanted[i] === 1) top.add(i, counts[i]);
  }
  return { field, values, top: top.all.map(({ index, count }) => ({ ...coded.choices[index]!, count })), none };
}

/** The values with the most, and of equal ones the first by name; without names, all in the order in which they come. */
class Top {
  readonly all: { index: number; count: number }[] = [];

  constructor(
    private readonly most: number,
    private readonly names: readonly (Choice | undefined)[] | null,
  ) {}

  add(index: number, count: number) {
    const { all, most } = this;
    let at = all.length;
    if (this.names) while (at > 0 && this.isBefore(index, count, all[at - 1])) at--;
    if (at >= most) return;
    all.splice(at, 0, { index, count });
    if (all.length > most) all.pop();
  }

  private isBefore(index: number, count: number, other: { index: number; count: number }): boolean {
    if (count !== other.count) return count > other.count;
    return byText(this.names![index]!.value, this.names![other.index]!.value) < 0;
  }
}

/** What a facet is counted from: shares, in parts; or for what stands in profiles, how many of them have each. */
export interface Counted {
  parts: readonly Uint32Array[];
  profiles: Uint32Array;
}

export function countedOf({ profile, profiles }: Register, slots: Uint32Array): Counted {
  return { parts: [slots], profiles: tally(profile, [slots], profiles.count) };
}

/** How many of the shares found have each code, bit or member, and how many have none. */
function countsOf(coded: Coded, found: Counted): { counts: Uint32Array; none: number } {
  const { column } = coded;
  if (coded.kind === "bits") return countsOfBits(column, coded.choices.length, found.profiles);
  const byCode = coded.ofProfile ? weigh(column, found.profiles, coded.count) : tally(column, found.parts, coded.count);
  if (coded.kind === "codes") {
    const none = byCode.reduce((sum, count, code) => (coded.choices[code] ? sum : sum + count), 0);
    return { counts: byCode, none };
  }
  const counts = new Uint32Array(coded.choices.length);
  for (let set = 1; set < coded.count; set++)
    if (byCode[set] > 0) for (const member of coded.members(set)) counts[member] += byCode[set];
  return { counts, none: byCode[0] };
}

function tally(column: Uint32Array, parts: readonly Uint32Array[], count: number): Uint32Array {
  const counts = new Uint32Array(count);
  for (const slots of parts) for (let i = 0; i < slots.length; i++) counts[column[slots[i]]]++;
  return counts;
}

/** @param weights by profile */
function weigh(column: Uint32Array, weights: Uint32Array, count: number): Uint32Array {
  const counts = new Uint32Array(count);
  for (let profile = 0; profile < weights.length; profile++) counts[column[profile]] += weights[profile];
  return counts;
}

function countsOfBits(column: Uint32Array, length: number, weights: Uint32Array) {
  const counts = new Uint32Array(length);
  let none = 0;
  for (let profile = 0; profile < weights.length; profile++) {
    if (column[profile] === 0) none += weights[profile];
    for (let bits = column[profile]; bits !== 0; bits &= bits - 1)
      counts[31 - Math.clz32(bits & -bits)] += weights[profile];
  }
  return { counts, none };
}

export function histogram(register: Register, { parts }: Counted, field: MomentName, t: Seconds): Histogram {
  const column = momentColumn(register, field);
  const isAhead = FIELDS[field].direction === "ahead";
  const byDay = COUNTS_BY_DAY.fill(0);
  let never = 0;
  for (const slots of parts) never += countByDay(column, slots, t, isAhead ? 1 : -1, byDay);
  const counts = new Array<number>(SPAN_DAYS.length + 1).fill(0);
  for (let day = 0; day < DAYS; day++) counts[SPAN_OF_DAY[day]] += byDay[day];
  return { field, counts, never };
}

/** Days from the day before t, on which all counts that lies on the other side of t, up to one for all that is far away. */
const DAYS = MOST_DAYS + 2;
/** Kept from one to the next: fresh memory of that size costs more than counting a few thousand shares. */
const COUNTS_BY_DAY = new Uint32Array(DAYS);
const FRACTION_OF_DAY = 1 / DAY;

/**
 * Counts how many lie so many whole days away, and returns how many never come, which are on none.
 * @param direction 1 where days are counted ahead from t, -1 where they are counted back
 */
function countByDay(column: Instants, slots: Uint32Array, t: Seconds, direction: 1 | -1, byDay: Uint32Array): number {
  const none = direction === 1 ? NEVER : ALWAYS;
  let never = 0;
  for (let i = 0; i < slots.length; i++) {
    const at = column[slots[i]];
    // Half a second more keeps a whole day whole when it is multiplied instead of divided, which takes far longer.
    const day = Math.floor(((at - t) * direction + 0.5) * FRACTION_OF_DAY);
    const isNever = Number(at === none);
    byDay[Math.min(Math.max(day, -1), MOST_DAYS) + 1] += 1 - isNever;
    never += isNever;
  }
  return never;
}

const SPAN_OF_DAY = Uint8Array.from({ length: DAYS }, (_, day) => SPAN_DAYS.filter((end) => end <= day - 1).length);
