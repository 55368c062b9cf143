import { Cron } from "croner";
import { hostname } from "node:os";
import { v7 as uuid } from "uuid";
import { runningSeconds } from "./clock";
import { type Db, writing } from "./db/open";

/** How long a process holds the lock without a sign of life; it gives one at every third of that. */
const HELD_S = 30;

/** @returns how many alerts it raised, where it raises any */
export type Job = () => Promise<number | void>;

/**
 * What is done every minute, in the order in which it was registered. Each job looks at the
 * database and records there what it did, in one transaction: what was missed while nothing ran is done once,
 * and nothing twice, whoever calls this and however often.
 */
export class Jobs {
  private readonly jobs: Job[] = [];
  private readonly crons: Cron[] = [];

  constructor(private readonly db: Db) {}

  register(...jobs: Job[]) {
    this.jobs.push(...jobs);
  }

  /** Does everything that is due. @returns how many alerts it raised, or null if another process is at it */
  async doDue(): Promise<number | null> {
    const holder = `${hostname()} ${process.pid} ${uuid()}`;
    if (!(await this.take(holder))) return null;
    const signs = setInterval(() => void this.hold(holder), (HELD_S / 3) * 1_000).unref();
    try {
      let alerts = 0;
      for (const job of this.jobs) alerts += (await job()) ?? 0;
      return alerts;
    } finally {
      clearInterval(signs);
      await this.db.deleteFrom("lease").where("name", "=", "tick").where("holder", "=", holder).execute();
    }
  }

  /** Repeats work at an interval in seconds, never twice at the same time. */
  every(seconds: number, work: () => Promise<void>) {
    this.crons.push(new Cron("* * * * * *", { interval: seconds, protect: true, unref: true }, work));
  }

  /** Does some work at the beginning of each minute. */
  everyMinute(work: () => Promise<void>) {
    this.crons.push(new Cron("0 * * * * *", { protect: true, unref: true }, work));
  }

  stop() {
    for (const cron of this.crons) cron.stop();
  }

  private async hold(holder: string) {
    const until = runningSeconds() + HELD_S;
    await this.db.updateTable("lease").set({ until }).where("name", "=", "tick").where("holder", "=", holder).execute();
  }

  private take(holder: string): Promise<boolean> {
    const now = runningSeconds();
    return writing(this.db, async (within) => {
      const held = await within.selectFrom("lease").selectAll().where("name", "=", "tick").executeTakeFirst();
      if (held && held.until > now && isAtWork(held.holder)) return false;
      const lease = { holder, until: now + HELD_S };
      await within
        .insertInto("lease")
        .values({ name: "tick", ...lease })
        .onConflict((conflict) => conflict.column("name").doUpdateSet(lease))
        .execute();
      return true;
    });
  }
}

/** Whether the process that holds a lease may still run; of another machine's we don't know, and wait. */
function isAtWork(holder: string): boolean {
  const [host, pid] = holder.split(" ");
  if (host !== hostname()) return true;
  try {
    return process.kill(Number(pid), 0);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}
