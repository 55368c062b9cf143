import { grown } from "../estate/grow";

/** The facts of a share that take few values, so that many shares have them in common. */
export const PROFILE_FACTS = [
  "store",
  "way",
  "kind",
  "label",
  "state",
  "risk",
  "outside",
  "role",
  "password",
  "download",
  "rules",
  "waived",
  "latches",
  "stances",
  "engagements",
] as const;
export type ProfileFact = (typeof PROFILE_FACTS)[number];
export type ProfileFacts = Record<ProfileFact, number>;

/**
 * Each combination of such facts once, under a number. There are some thousands of them at most, however many
 * shares there are: what is asked of all these facts is asked of the profiles, and then once of the shares.
 */
export class Profiles {
  /** By the part that most keys share, then by the rest: numbers are looked up much faster than texts. */
  private readonly numbers = new Map<number, Map<number, number>>();
  private readonly rare = new Map<string, number>();
  private known = 0;
  /** By the numbers of the profiles. */
  readonly columns = Object.fromEntries(PROFILE_FACTS.map((fact) => [fact, new Uint32Array(0)])) as Record<
    ProfileFact,
    Uint32Array
  >;

  /** @param kept by number, as `columns` gave them */
  constructor(kept: readonly ProfileFacts[] = []) {
    for (const facts of kept) this.number(facts);
  }

  /** All of them, to be kept and given to others later. */
  facts(): ProfileFacts[] {
    return Array.from({ length: this.known }, (_, number) => this.at(number));
  }

  /** The facts of one of them. */
  at(number: number): ProfileFacts {
    const { columns } = this;
    const facts = {} as ProfileFacts;
    for (const fact of PROFILE_FACTS) facts[fact] = columns[fact][number];
    return facts;
  }

  get count(): number {
    return this.known;
  }

  number(facts: ProfileFacts): number {
    const few = fewKey(facts);
    let byRest = this.numbers.get(few);
    if (byRest === undefined) this.numbers.set(few, (byRest = new Map()));
    const rest = this.restKey(facts);
    let number = byRest.get(rest);
    if (number === undefined) byRest.set(rest, (number = this.add(facts)));
    return number;
  }

  private add(facts: ProfileFacts): number {
    const number = this.known++;
    for (const fact of PROFILE_FACTS) {
      this.columns[fact] = grown(this.columns[fact], number + 1);
      this.columns[fact][number] = facts[fact];
    }
    return number;
  }

  /** Rules take 32 bits. Rare combinations have a number of their own; 0 stands for none. */
  private restKey({ rules, waived, engagements }: ProfileFacts): number {
    if (waived === 0 && engagements === 0) return rules >>> 0;
    const key = `${waived},${engagements}`;
    let number = this.rare.get(key);
    if (number === undefined) this.rare.set(key, (number = this.rare.size + 1));
    return (rules >>> 0) + 2 ** 32 * number;
  }
}

/** Everything that takes few values in one whole number: 30 bits, with the store above them. */
function fewKey(facts: ProfileFacts): number {
  const { store, way, kind, label, state, risk, outside, role, password, download, latches, stances } = facts;
  const who = way | (kind << 3) | (label << 5) | (state << 8) | (risk << 11) | (outside << 14) | (role << 15);
  const how = who | (password << 18) | (download << 19) | (latches << 20) | (stances << 24);
  return how + 2 ** 30 * store;
}
