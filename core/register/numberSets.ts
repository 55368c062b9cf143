/** Small sets of numbers, each kept once under a number of its own. The empty set is 0. */
export class NumberSets {
  private known: Map<string, number> | undefined;

  /** @param sets by number, the empty one first */
  constructor(private readonly sets: number[][] = [[]]) {}

  /** All of them, to be kept and given to another one later. */
  columns(): number[][] {
    return this.sets;
  }

  private get numbers(): Map<string, number> {
    return (this.known ??= new Map(this.sets.map((members, number) => [members.join(), number])));
  }

  get count(): number {
    return this.sets.length;
  }

  /** @param members in any order, each at most once */
  number(members: readonly number[]): number {
    if (members.length === 0) return 0;
    const sorted = members.length === 1 ? members : [...members].sort((a, b) => a - b);
    const key = sorted.join();
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.sets.push([...sorted]) - 1;
      this.numbers.set(key, number);
    }
    return number;
  }

  get(number: number): readonly number[] {
    return this.sets[number];
  }
}
