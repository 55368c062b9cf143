import { type Db, type Tx, writing } from "./open";

interface Waiting {
  work: (within: Tx) => Promise<void>;
  resolve: () => void;
  reject: (error: unknown) => void;
}

/**
 * Writes of many at the same time, in one transaction for all that have come since the last: each commit waits for
 * the disk. Every one of them is kept when its promise is fulfilled, as if it had written alone.
 */
export class WritingTogether {
  private waiting: Waiting[] = [];
  private goesOn: Promise<void> | null = null;

  constructor(private readonly db: Db) {}

  write(work: (within: Tx) => Promise<void>): Promise<void> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ work, resolve, reject });
      this.goesOn ??= this.writeAll().finally(() => (this.goesOn = null));
    });
  }

  private async writeAll() {
    // What comes in the same turn of the loop joins.
    await new Promise((resolve) => setImmediate(resolve));
    while (this.waiting.length > 0) {
      const some = this.waiting;
      this.waiting = [];
      await this.writeSome(some);
    }
  }

  private async writeSome(some: readonly Waiting[]) {
    try {
      await writing(this.db, async (within) => {
        for (const { work } of some) await work(within);
      });
      for (const { resolve } of some) resolve();
    } catch (error) {
      if (some.length === 1) return some[0].reject(error);
      // One of them may have made the transaction fail for all.
      for (const one of some) await this.writeSome([one]);
    }
  }
}
