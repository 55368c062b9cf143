/** Small sets of numbers, each kept once under a number of its own. The empty set is 0. */
export class NumberSets {
  private readonly numbers = new Map<string, number>([["", 0]]);
  private readonly sets: number[][] = [[]];

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
