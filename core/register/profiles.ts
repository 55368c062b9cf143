import { grown } from "../estate/grow";

/** The facts of a share that have few values: all that many shares have in common. */
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
  private readonly numbers = new Map<string, number>();
  /** By the numbers of the profiles. */
  readonly columns = Object.fromEntries(PROFILE_FACTS.map((fact) => [fact, new Uint32Array(0)])) as Record<
    ProfileFact,
    Uint32Array
  >;

  get count(): number {
    return this.numbers.size;
  }

  number(facts: ProfileFacts): number {
    const key = PROFILE_FACTS.map((fact) => facts[fact]).join();
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.numbers.size;
      this.numbers.set(key, number);
      for (const fact of PROFILE_FACTS) {
        this.columns[fact] = grown(this.columns[fact], number + 1);
        this.columns[fact][number] = facts[fact];
      }
    }
    return number;
  }
}
