import type { Estate } from "../estate/estate";
import { grown } from "../estate/grow";

/**
 * Who is inside at one place of a sweep: how many different insiders and outsiders, and of which
 * organisations. People come and go by as many ways as there are; each is counted once.
 */
export class Presence {
  insiders = 0;
  outsiders = 0;
  private times: Int32Array;
  private organisationTimes: Int32Array;
  /** The organisations that are inside, in no order, and where in that list each of them stands. */
  private present: Int32Array;
  private place: Int32Array;
  private presentCount = 0;
  /** Sum of a number of each organisation that is inside: equal sets have equal sums. */
  private sum = 0;

  constructor(private readonly estate: Estate) {
    const { people, organisations } = estate.principals;
    this.times = new Int32Array(people.length);
    this.organisationTimes = new Int32Array(organisations.length);
    this.present = new Int32Array(organisations.length);
    this.place = new Int32Array(organisations.length);
  }

  /** Makes room for people that have been heard of since. */
  grow() {
    const { people, organisations } = this.estate.principals;
    this.times = grown(this.times, people.length);
    this.organisationTimes = grown(this.organisationTimes, organisations.length);
    this.present = grown(this.present, organisations.length);
    this.place = grown(this.place, organisations.length);
  }

  enterOutsiders(from: number, to: number) {
    const { pool, organisationOf } = this.estate.principals;
    const { times, organisationTimes } = this;
    for (let i = from; i < to; i++) {
      if (times[pool[i]]++ > 0) continue;
      this.outsiders++;
      const organisation = organisationOf[pool[i]];
      if (organisationTimes[organisation]++ === 0) this.addOrganisation(organisation);
    }
  }

  leaveOutsiders(from: number, to: number) {
    const { pool, organisationOf } = this.estate.principals;
    const { times, organisationTimes } = this;
    for (let i = from; i < to; i++) {
      if (--times[pool[i]] > 0) continue;
      this.outsiders--;
      const organisation = organisationOf[pool[i]];
      if (--organisationTimes[organisation] === 0) this.removeOrganisation(organisation);
    }
  }

  enterInsiders(from: number, to: number) {
    const { pool } = this.estate.principals;
    const { times } = this;
    let come = 0;
    for (let i = from; i < to; i++) if (times[pool[i]]++ === 0) come++;
    this.insiders += come;
  }

  leaveInsiders(from: number, to: number) {
    const { pool } = this.estate.principals;
    const { times } = this;
    let gone = 0;
    for (let i = from; i < to; i++) if (--times[pool[i]] === 0) gone++;
    this.insiders -= gone;
  }

  private addOrganisation(organisation: number) {
    this.place[organisation] = this.presentCount;
    this.present[this.presentCount++] = organisation;
    this.sum = (this.sum + scattered(organisation)) | 0;
  }

  private removeOrganisation(organisation: number) {
    const last = this.present[--this.presentCount];
    this.present[this.place[organisation]] = last;
    this.place[last] = this.place[organisation];
    this.sum = (this.sum - scattered(organisation)) | 0;
  }

  /**
   * The number in `sets` of the organisations that are inside.
   * @param above number of the set further up: whoever was inside there is inside still
   */
  organisationSet(sets: OrganisationSets, above: number): number {
    if (sets.sizeOf(above) === this.presentCount) return above;
    return sets.intern(this.sum, this.present, this.presentCount, this.organisationTimes);
  }
}

/** A number that looks drawn by lot, the same for the same organisation (the finaliser of MurmurHash3, public domain). */
function scattered(organisation: number): number {
  let x = organisation + 0x9e3779b9;
  x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
  return x ^ (x >>> 16);
}

/** Sets of organisations, each kept once. Set 0 is the empty one. */
export class OrganisationSets {
  private starts = new Int32Array(1_024);
  private sums = new Int32Array(1_024);
  private members = new Int32Array(4_096);
  private count = 1;
  private table = new Int32Array(2_048);

  /** Forgets all sets. */
  clear() {
    this.count = 1;
    this.table.fill(0);
  }

  /**
   * @param sum of the set's members, as a first guess at which set it is
   * @param times more than 0 for the members, and for them alone
   */
  intern(sum: number, present: Int32Array, length: number, times: Int32Array): number {
    if (length === 0) return 0;
    const mask = this.table.length - 1;
    let at = (Math.imul(sum, 0x9e3779b1) >>> 5) & mask;
    for (; this.table[at] !== 0; at = (at + 1) & mask) {
      const set = this.table[at];
      if (this.sums[set] === sum && this.isSame(set, length, times)) return set;
    }
    return this.add(at, sum, present, length);
  }

  private isSame(set: number, length: number, times: Int32Array): boolean {
    const from = this.starts[set];
    if (this.starts[set + 1] - from !== length) return false;
    for (let i = from; i < from + length; i++) if (times[this.members[i]] === 0) return false;
    return true;
  }

  private add(at: number, sum: number, present: Int32Array, length: number): number {
    const set = this.count++;
    this.starts = grown(this.starts, set + 2);
    this.sums = grown(this.sums, set + 1);
    this.members = grown(this.members, this.starts[set] + length);
    for (let i = 0; i < length; i++) this.members[this.starts[set] + i] = present[i];
    this.starts[set + 1] = this.starts[set] + length;
    this.sums[set] = sum;
    this.table[at] = set;
    if (this.count * 2 > this.table.length) this.rehash();
    return set;
  }

  private rehash() {
    this.table = new Int32Array(this.table.length * 2);
    const mask = this.table.length - 1;
    for (let set = 1; set < this.count; set++) {
      let at = (Math.imul(this.sums[set], 0x9e3779b1) >>> 5) & mask;
      while (this.table[at] !== 0) at = (at + 1) & mask;
      this.table[at] = set;
    }
  }

  sizeOf(set: number): number {
    return set === 0 ? 0 : this.starts[set + 1] - this.starts[set];
  }

  /** Indexes of the organisations in a set, in no order. */
  of(set: number): Int32Array {
    return set === 0 ? new Int32Array(0) : this.members.subarray(this.starts[set], this.starts[set + 1]);
  }
}
