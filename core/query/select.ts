import type { Register } from "../register/register";
import { ALWAYS, FIRST_INSTANT, type Instants, LAST_INSTANT, NEVER, type Seconds } from "../time/instant";
import { asksForNone, type Choices, type Coded } from "./choices";
import {
  type ChoiceName,
  type CodedName,
  type FieldName,
  FIELDS,
  isLookedUp,
  type LookedUp,
  type MomentName,
} from "./fields";
import { flagsOfPeople } from "./naming";
import { asksForRevoked, NOT_REVOKED } from "./revoked";
import { type Comparison, fieldOf, type KnownTest, type Term } from "./query";

/** By slot: 1 where a phrase stands in something of the share, or what is looked up by its key is about it. */
export type FlagsOfPhrase = (phrase: string) => Uint8Array;

/** The key of flags for something looked up. No phrase contains a line end. */
export const lookUpKey = (field: LookedUp, id: string) => `${field}\n${id}`;

export type ChoiceTerm = Term & { kind: "choice" };
export type Slots = Uint32Array<ArrayBuffer>;

/** The shares that meet all terms; and by field, those that fail what is asked of it and nothing else. */
export interface Parted {
  met: Slots;
  failing: Map<FieldName, Slots[]>;
}

/**
 * Finds the shares that meet the terms of a query. Each term goes once over the shares that are left, without a
 * branch on what stands in the columns.
 */
export class Selector {
  // Kept from query to query: fresh memory of that size costs as much as a term.
  private slots = new Uint32Array(0);
  private failed = new Uint32Array(0);

  constructor(
    private readonly register: Register,
    private readonly choices: Choices,
  ) {}

  /**
   * Slots of the shares that meet all terms, in rising order. The register must have been brought to t.
   * @param flags of every phrase among the terms
   */
  select(terms: readonly Term[], t: Seconds, flags: FlagsOfPhrase): Slots {
    const { listedSlots, knownSlots } = this.register;
    if (terms.length === 0) return listedSlots;
    const all = asksForRevoked(terms) ? knownSlots : listedSlots;
    this.makeRoom(all.length);
    const ofProfile = terms.filter((term) => this.isOfProfile(term));
    let left: Slots = all;
    if (ofProfile.length > 0) left = this.withProfiles(left, this.profilesMeeting(ofProfile));
    for (const term of terms)
      if (!this.isOfProfile(term)) left = this.narrow(left, term, t, flags, { to: this.slots, failing: false });
    return left.slice();
  }

  /** Of some shares, those whose profile is one of some. @param meets by profile @param to may be the same place */
  withProfiles(slots: Slots, meets: Uint8Array, to: Slots = this.slots): Slots {
    return byTable(slots, this.register.profile, meets, { to, negated: false });
  }

  /**
   * Parts the shares, revoked ones too, by terms that are not of profiles: what would be found were one field not
   * asked about is what meets all, and what fails there alone. The answer stands in memory that the next question takes.
   */
  part(terms: readonly Term[], t: Seconds, flags: FlagsOfPhrase): Parted {
    const { knownSlots } = this.register;
    this.makeRoom(knownSlots.length);
    const failing = new Map<FieldName, Slots[]>();
    let met: Slots = knownSlots;
    let kept = 0;
    for (const term of terms) {
      const meets = (slots: Slots, to: Slots) => this.narrow(slots, term, t, flags, { to, failing: false });
      const field = fieldOf(term);
      for (const [other, parts] of failing)
        if (other !== field)
          failing.set(
            other,
            parts.map((part) => meets(part, part)),
          );
      if (field) {
        const failed = this.narrow(met, term, t, flags, { to: this.failed.subarray(kept), failing: true });
        failing.set(field, [...(failing.get(field) ?? []), failed]);
        kept += failed.length;
      }
      met = meets(met, this.slots);
    }
    return { met, failing };
  }

  /** The terms as meant: without revoked shares, unless the query asks for them. */
  inFull(terms: readonly Term[]): readonly Term[] {
    const { listedSlots, knownSlots } = this.register;
    return listedSlots.length === knownSlots.length || asksForRevoked(terms) ? terms : [...terms, NOT_REVOKED];
  }

  /** Whether a term asks about a fact that stands in the profiles: all such terms are answered by them at once. */
  isOfProfile(term: Term): term is ChoiceTerm {
    return term.kind === "choice" && isCoded(term.field) && this.choices.coded(term.field).ofProfile;
  }

  /** By profile: 1 where it meets all terms, which must be of profiles. */
  profilesMeeting(terms: readonly ChoiceTerm[]): Uint8Array {
    const { count } = this.register.profiles;
    let left: Slots = new Uint32Array(count);
    for (let number = 0; number < count; number++) left[number] = number;
    for (const term of terms) left = this.narrowByChoice(left, term, { to: left, negated: term.negated });
    const meets = new Uint8Array(count);
    for (const number of left) meets[number] = 1;
    return meets;
  }

  private makeRoom(length: number) {
    if (this.slots.length >= length) return;
    this.slots = new Uint32Array(length);
    this.failed = new Uint32Array(length);
  }

  /** Writes the slots that meet a term, or those that fail it. */
  private narrow(
    slots: Slots,
    term: Term,
    t: Seconds,
    flags: FlagsOfPhrase,
    { to, failing }: { to: Slots; failing: boolean },
  ): Slots {
    const { register } = this;
    const into = { to, negated: term.negated !== failing };
    switch (term.kind) {
      case "words":
        return byFlags(slots, either(term.values.map(flags)), into);
      case "choice":
        return isLookedUp(term.field)
          ? byFlags(slots, either(term.values.map(({ text }) => flags(lookUpKey(term.field as LookedUp, text)))), into)
          : this.narrowByChoice(slots, term, into);
      case "moment":
        return byMoment(slots, momentColumn(register, term.field), this.momentTest(term, t), { to, negated: failing });
      case "count":
        return byRange(slots, register[term.field], countRange(term.comparison, term.count), into);
    }
  }

  private momentTest({ field, test, negated }: Term & { kind: "moment" }, t: Seconds): TestedMoment {
    const { asAt } = this.register.estate;
    if (test.kind === "unknown") return { from: asAt + 1, last: NEVER, turned: negated, known: NEVER };
    const [from, last] = momentRange(field, test, t);
    return { from, last, turned: negated, known: field === "used" ? asAt : NEVER };
  }

  private narrowByChoice(slots: Slots, { field, values }: ChoiceTerm, into: Into): Slots {
    if (isLookedUp(field)) throw new Error(`what a ${field} is about stands in no column`);
    const isAsked = this.choices.asked(field, values);
    const isNone = Number(asksForNone(field, values));
    if (field === "for") return byFlags(slots, this.naming(isAsked, isNone), into);
    const coded = this.choices.coded(field);
    if (coded.kind === "bits") {
      const wanted = isAsked.reduce((sum, one, bit) => sum | (one << bit), 0);
      return byBits(slots, coded.column, wanted, isNone, into);
    }
    return byTable(slots, coded.column, tableOf(coded, isAsked, isNone), into);
  }

  /** By slot: 1 where a share names one of those asked for, or nobody where that is asked for. */
  private naming(isAsked: Uint8Array, isNone: number): Uint8Array {
    const flags = flagsOfPeople(this.register, isAsked);
    const { people } = this.register;
    if (isNone === 1) for (let slot = 0; slot < flags.length; slot++) flags[slot] |= Number(people[slot] === 0);
    return flags;
  }
}

/** Where slots that stay are written, which may be where they are read from; and whether those stay that don't hold. */
interface Into {
  to: Slots;
  negated: boolean;
}

const isCoded = (field: ChoiceName): field is CodedName => field !== "for" && !isLookedUp(field);

function byFlags(slots: Slots, flags: Uint8Array, into: Into): Slots {
  const { to } = into;
  const negated = Number(into.negated);
  let count = 0;
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    to[count] = slot;
    count += flags[slot] ^ negated;
  }
  return to.subarray(0, count);
}

function byTable(slots: Slots, column: Uint32Array, table: Uint8Array, into: Into): Slots {
  const { to } = into;
  const negated = Number(into.negated);
  let count = 0;
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    to[count] = slot;
    count += table[column[slot]] ^ negated;
  }
  return to.subarray(0, count);
}

function byBits(slots: Slots, column: Uint32Array, wanted: number, none: number, into: Into): Slots {
  const { to } = into;
  const negated = Number(into.negated);
  let count = 0;
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    const bits = column[slot];
    to[count] = slot;
    count += (isSome(bits & wanted) | (none & (isSome(bits) ^ 1))) ^ negated;
  }
  return to.subarray(0, count);
}

/** @param range both ends inclusive; nothing at all where the first lies above the second */
function byRange(slots: Slots, column: Uint32Array, [from, last]: readonly [number, number], into: Into): Slots {
  const { to } = into;
  const negated = Number(into.negated);
  let count = 0;
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    const value = column[slot];
    to[count] = slot;
    count += (Number(value >= from) & Number(value <= last)) ^ negated;
  }
  return to.subarray(0, count);
}

/** 1 where any bit is set: a number and its negative have the highest bit in common unless it is 0. */
function isSome(bits: number): number {
  return (bits | (~bits + 1)) >>> 31;
}

function either(all: readonly Uint8Array[]): Uint8Array {
  if (all.length === 1) return all[0];
  return all[0].map((_, slot) => Number(all.some((flags) => flags[slot] === 1)));
}

/** By code, or by number of a set: 1 where it matches. */
function tableOf(coded: Exclude<Coded, { kind: "bits" }>, isAsked: Uint8Array, isNone: number): Uint8Array {
  const table = new Uint8Array(coded.count);
  if (coded.kind === "codes")
    for (let code = 0; code < coded.count; code++) table[code] = coded.choices[code] ? isAsked[code] : isNone;
  else for (let set = 0; set < coded.count; set++) table[set] = holdsOne(coded.members(set), isAsked, isNone);
  return table;
}

function holdsOne(members: readonly number[], isAsked: Uint8Array, ifEmpty: number): number {
  for (const member of members) if (isAsked[member] === 1) return 1;
  return members.length === 0 ? ifEmpty : 0;
}

/**
 * Like `byRange`, for a column of instants. What is not known passes no test, turned round or not; so it is among
 * those that fail.
 */
function byMoment(slots: Slots, column: Instants, test: TestedMoment, into: Into): Slots {
  const { from, last, known } = test;
  const { to } = into;
  const [turned, negated] = [Number(test.turned), Number(into.negated)];
  let count = 0;
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    const at = column[slot];
    to[count] = slot;
    count += (((Number(at >= from) & Number(at <= last)) ^ turned) & Number(at <= known)) ^ negated;
  }
  return to.subarray(0, count);
}

export function momentColumn({ estate: { shares } }: Register, field: MomentName): Instants {
  return { made: shares.made, used: shares.lastUsed, ends: shares.ends }[field];
}

/** The instants that a term lets through, both ends inclusive; or, where it is negated, all others. */
interface TestedMoment {
  from: Seconds;
  last: Seconds;
  turned: boolean;
  /** The last instant that says anything about the time asked about. */
  known: Seconds;
}

/** The number that stands for "never" in a column of moments. */
const NEVER_IN: Record<MomentName, Seconds> = { made: ALWAYS, used: ALWAYS, ends: NEVER };

/**
 * The instants that a test lets through, both ends inclusive. What was never used was used no time ago, and on no
 * day; what never ends, ends later than any number of days, and after any day.
 */
function momentRange(field: MomentName, test: KnownTest, t: Seconds): [from: number, to: number] {
  const isAhead = FIELDS[field].direction === "ahead";
  const [first, last] = isAhead ? [ALWAYS, NEVER] : [FIRST_INSTANT, NEVER];
  switch (test.kind) {
    case "never":
      return [NEVER_IN[field], NEVER_IN[field]];
    case "age": {
      const at = isAhead ? t + test.seconds : t - test.seconds;
      // A greater age lies further back, but a greater distance ahead lies later.
      const isAfter = test.comparison.startsWith(">") === isAhead;
      const step = test.comparison.endsWith("=") ? 0 : 1;
      return isAfter ? [Math.min(Math.max(at + step, first), last), last] : [first, Math.min(at - step, LAST_INSTANT)];
    }
    case "date": {
      const from = Math.max(test.from, first);
      return {
        "<": [first, test.from - 1],
        "<=": [first, test.to - 1],
        ">": [Math.max(test.to, first), last],
        ">=": [from, last],
        "=": [from, test.to - 1],
      }[test.comparison] as [number, number];
    }
  }
}

function countRange(comparison: Comparison, count: number): [from: number, to: number] {
  const ranges: Record<Comparison, [number, number]> = {
    "<": [0, count - 1],
    "<=": [0, count],
    ">": [count + 1, NEVER],
    ">=": [count, NEVER],
    "=": [count, count],
  };
  return ranges[comparison];
}
