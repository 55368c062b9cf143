import pLimit from "p-limit";
import type { Asking } from "../engine/client";
import { runningSeconds } from "../platform/clock";
import { installed } from "../platform/installation";
import { AskedThread } from "../platform/thread";
import type { ListOutlook } from "./lists";
import type { ListTask } from "./thread";

/** By then a list that was looked at has been read, or may be worked out again. */
const IDLE_SECONDS = 600;

/** Lists of people that are compared and read: one at a time, in a thread of their own, so that nobody else waits. */
export class ListsAtWork {
  private readonly thread: AskedThread;
  private readonly inTurn = pLimit(1);
  private usedAt = runningSeconds();

  constructor(data: { databasePath: string; now: Date | undefined }) {
    this.thread = new AskedThread(installed("dist", "lists.mjs"), data);
  }

  /** @throws {Problem} where it can't be done */
  ask(task: ListTask): Promise<ListOutlook> {
    this.usedAt = runningSeconds();
    return this.inTurn(async () => {
      const outlook = (await this.thread.ask(task)) as ListOutlook;
      this.usedAt = runningSeconds();
      // What was read is no longer needed.
      if (task.task === "take") await this.thread.end();
      return outlook;
    });
  }

  async dropIdle(): Promise<void> {
    if (this.usedAt + IDLE_SECONDS < runningSeconds()) await this.inTurn(() => this.thread.end());
  }

  close(): Promise<void> {
    return this.thread.end();
  }
}

export interface Listing extends Asking {
  readonly lists: ListsAtWork;
}
