import { setTimeout as wait } from "node:timers/promises";

const LOOK_EVERY_MS = 2;
/** So long at most: what goes on by itself has to come to its end as well. */
const LONGEST_MS = 30;

/** Questions that somebody waits for. Readings and dockets, which go on by themselves, give way to them. */
export class Traffic {
  private inHand = 0;

  async answering<T>(work: () => Promise<T>): Promise<T> {
    this.inHand++;
    try {
      return await work();
    } finally {
      this.inHand--;
    }
  }

  async giveWay(): Promise<void> {
    const until = performance.now() + LONGEST_MS;
    while (this.inHand > 0 && performance.now() < until) await wait(LOOK_EVERY_MS);
  }
}
