import { RateLimiterRes, RateLimiterSQLite } from "rate-limiter-flexible";
import { runningSeconds } from "./clock";
import type { Db } from "./db/open";
import { Problem } from "./problem";

const MINUTE = 60;

/** How often something may go wrong within how many seconds, for each account, network or whatever else is counted by. */
const LIMITS = {
  /** A password, by account, from a browser that has not been signed in by before. */
  account: { points: 10, duration: 15 * MINUTE },
  /** The same from one that has: whoever shuts an account out from elsewhere does not shut this one out. */
  browser: { points: 10, duration: 15 * MINUTE },
  /** A password, whoever's, from one network. */
  network: { points: 60, duration: 15 * MINUTE },
  /** The code of a second factor, by account. */
  code: { points: 10, duration: 15 * MINUTE },
  /** An address from a letter, or the code of the first run, from one network: what is right is never counted. */
  guess: { points: 60, duration: MINUTE },
};
export type LimitName = keyof typeof LIMITS;

/** Something that is counted: by which limit, and for whom. */
export type Counted = readonly [LimitName, string];

const TABLE = "try_count";

/** Counts tries in the database, so that a restart forgets none and a command can forgive them. */
export class Limits {
  private readonly limiters: Record<LimitName, RateLimiterSQLite>;

  constructor(private readonly db: Db) {
    const limiter = ([name, limit]: [string, { points: number; duration: number }]) =>
      [
        name,
        new RateLimiterSQLite({
          ...limit,
          storeClient: db.sqlite,
          storeType: "better-sqlite3",
          tableName: TABLE,
          tableCreated: true,
          keyPrefix: name,
          clearExpiredByTimeout: false,
        }),
      ] as const;
    this.limiters = Object.fromEntries(Object.entries(LIMITS).map(limiter)) as typeof this.limiters;
  }

  /**
   * Counts a try before it is made, so that however many are made at once no more go through than may.
   * @throws {Problem} where there have been too many; then none of them is counted
   */
  async count(tries: readonly Counted[]): Promise<void> {
    for (const [n, [name, who]] of tries.entries())
      try {
        await this.alone(() => this.limiters[name].consume(who));
      } catch (refused) {
        if (!(refused instanceof RateLimiterRes)) throw refused;
        await this.giveBack(tries.slice(0, n));
        const seconds = Math.ceil(refused.msBeforeNext / 1_000);
        const minutes = Math.ceil(seconds / MINUTE);
        const wait = minutes === 1 ? "a minute" : `${minutes} minutes`;
        throw new Problem("too-many", `Too many attempts. Try again in ${wait}.`, seconds);
      }
  }

  /** A try that turned out right was none. */
  async giveBack(tries: readonly Counted[]): Promise<void> {
    for (const [name, who] of tries) await this.alone(() => this.limiters[name].reward(who));
  }

  /** Forgives an account all that was tried with it. */
  async forgive(tries: readonly Counted[]): Promise<void> {
    for (const [name, who] of tries) await this.alone(() => this.limiters[name].delete(who));
  }

  /** Forgets what no longer counts. */
  async clear(): Promise<void> {
    await this.db
      .deleteFrom(TABLE)
      .where("expire", "<", runningSeconds() * 1_000)
      .execute();
  }

  /** The limiters write by the connection itself: never within somebody's transaction, which may be undone. */
  private alone<T>(work: () => Promise<T>): Promise<T> {
    return this.db.connection().execute(work);
  }
}
