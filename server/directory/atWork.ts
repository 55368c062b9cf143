import pLimit from "p-limit";
import type { Asking } from "../engine/client";
import { runningSeconds } from "../platform/clock";
import { installed } from "../platform/installation";
import { Problem } from "../platform/problem";
import { AskedThread, type Step } from "../platform/thread";
import type { ListOutlook } from "./lists";
import type { ListTask } from "./thread";

const STOPPED: Record<ListTask["task"], string> = {
  look: "Stopped. Nothing was changed.",
  take: "Stopped. What was written stays. Preview the list again to read the rest.",
};

/** By then a list that was looked at has been read, or may be worked out again. */
const IDLE_SECONDS = 600;

/** A list that the thread is at: whose it is, what is done with it, and how far that is. */
interface AtWork {
  by: string;
  task: ListTask["task"];
  step: Step;
}

/** Lists of people that are compared and read: one at a time, in a thread of their own, so that nobody else waits. */
export class ListsAtWork {
  private readonly thread: AskedThread;
  private readonly inTurn = pLimit(1);
  private usedAt = runningSeconds();
  private now: AtWork | null = null;

  constructor(data: { databasePath: string; now: Date | undefined }) {
    this.thread = new AskedThread(installed("dist", "lists.mjs"), data, (step) => {
      if (this.now) this.now.step = step;
    });
  }

  /** @param by whoever may stop it @throws {Problem} where it can't be done, or is stopped */
  ask(task: ListTask, by: string): Promise<ListOutlook> {
    this.usedAt = runningSeconds();
    return this.inTurn(async () => {
      this.now = { by, task: task.task, step: { words: "Starting", done: 0 } };
      const outlook = (await this.thread.ask(task).finally(() => (this.now = null))) as ListOutlook | null;
      this.usedAt = runningSeconds();
      // What was read is no longer needed.
      if (task.task === "take") await this.thread.end();
      if (outlook === null) throw new Problem("conflict", STOPPED[task.task]);
      return outlook;
    });
  }

  /** How far somebody's list is; null where none is being compared or read. */
  stepOf(by: string): Step | null {
    return this.now?.by === by ? this.now.step : null;
  }

  /** Stops somebody's list: comparing it at once, and reading it once the piece that is being written is whole. */
  async stop(by: string): Promise<void> {
    if (this.now?.by !== by) return;
    if (this.now.task === "look") await this.thread.end();
    else this.thread.stop();
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
