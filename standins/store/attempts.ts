import { now } from "../parts/clock";

const MOST = 5;
const WITHIN_MS = 15 * 60_000;

/** Counts wrong tries by what they were made at; five within a quarter of an hour, then a rest. */
export class Attempts {
  private readonly wrong = new Map<string, number[]>();

  areUsedUp(at: string): boolean {
    return this.recent(at).length >= MOST;
  }

  addWrong(at: string) {
    this.wrong.set(at, [...this.recent(at), now().getTime()]);
  }

  forget(at: string) {
    this.wrong.delete(at);
  }

  private recent(at: string): number[] {
    const since = now().getTime() - WITHIN_MS;
    return (this.wrong.get(at) ?? []).filter((time) => time > since);
  }
}
