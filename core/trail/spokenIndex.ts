import type { Spoken } from "./event";

/** How what events refer to can be searched, by one value. */
export type Asked = "person" | "share" | "organisation" | "party" | "label";

/** Everything that events refer to, by number, with an index; nothing has the number 0. */
export class SpokenIndex {
  readonly all: (Spoken | undefined)[] = [undefined];
  private readonly numbers = new Map<string, number[]>();
  private readonly items: number[] = [];

  /** Numbers rise: each is put once. */
  put(number: number, spoken: Spoken) {
    this.all[number] = spoken;
    if (spoken.path) this.items.push(number);
    for (const term of termsOf(spoken)) {
      const known = this.numbers.get(term);
      if (known) known.push(number);
      else this.numbers.set(term, [number]);
    }
  }

  /** By number: 1 where one of some values holds. */
  flags(asked: Asked, values: readonly string[]): Uint8Array {
    return this.flagged(values.flatMap((value) => this.numbers.get(`${asked}:${value}`) ?? []));
  }

  /** By number: 1 for an item, and for those that lay below it. */
  flagsBelow(itemId: string): Uint8Array {
    return this.flagged(this.items.filter((number) => this.all[number]!.path?.includes(itemId)));
  }

  flagged(numbers: ArrayLike<number>): Uint8Array {
    const flags = new Uint8Array(this.all.length);
    for (let i = 0; i < numbers.length; i++) flags[numbers[i]] = 1;
    return flags;
  }
}

function termsOf({ kind, key, label, people = [], organisations = [], parties = [] }: Spoken): string[] {
  return [
    ...(kind === "share" ? [`share:${key}`] : []),
    ...(label ? [`label:${label}`] : []),
    ...people.map((one) => `person:${one}`),
    ...organisations.map((one) => `organisation:${one}`),
    ...parties.map((one) => `party:${one}`),
  ];
}
