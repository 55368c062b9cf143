import { setTimeout as wait } from "node:timers/promises";

const LOOK_EVERY_MS = 2;
/** So long at most: what goes on by itself has to come to its end as well. */
const LONGEST_MS = 30;

/** Questions that somebody waits for. Readings and dockets, which go on by themselves, give way to them. */
export class Traffic {
  private readonly inHand: Int32Array;

  /** @param shared where the questions in hand are counted: the same for all threads of an application */
  constructor(readonly shared = new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT)) {
    this.inHand = new Int32Array(shared);
  }

  async answering<T>(work: () => Promise<T>): Promise<T> {
    Atomics.add(this.inHand, 0, 1);
    try {
      return await work();
    } finally {
      Atomics.sub(this.inHand, 0, 1);
    }
  }

  async giveWay(): Promise<void> {
    const until = performance.now() + LONGEST_MS;
    while (Atomics.load(this.inHand, 0) > 0 && performance.now() < until) await wait(LOOK_EVERY_MS);
  }
}
