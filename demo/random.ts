/** Chance that is the same on every run: Mulberry32 over a seed. */
export class Random {
  constructor(private state: number) {}

  /** From 0 up to, not including, 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `low` to `high`, both included. */
  between(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  chance(probability: number): boolean {
    return this.next() < probability;
  }

  pick<T>(from: readonly T[]): T {
    return from[this.between(0, from.length - 1)];
  }

  /** Some different ones, in the order of the list. */
  some<T>(from: readonly T[], count: number): T[] {
    const rest = [...from];
    while (rest.length > count) rest.splice(this.between(0, rest.length - 1), 1);
    return rest;
  }

  /** Letters and digits that can't be told from real address tokens. */
  token(length: number): string {
    const letters = "ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnpqrstuvwxyz23456789";
    return Array.from({ length }, () => letters[this.between(0, letters.length - 1)]).join("");
  }
}
