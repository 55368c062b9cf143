import { installed } from "../platform/installation";
import type { Platform } from "../platform/platform";
import type { Settings } from "../platform/settings";
import { AskedThread } from "../platform/thread";
import type { ReadingProgress, ReadingResult } from "./read";

/** What the thread is started with. */
export interface ReadingThreadOf {
  settings: Settings;
  /** The application's questions in hand, which it gives way to. */
  traffic: SharedArrayBuffer;
}

/** What it is asked. */
export interface ReadingTask {
  /** Where the application’s clock stands still. */
  standsAt: Date | undefined;
}

/** Stores are read in a thread of their own, so that nobody waits while a million records are written. */
export class ReadingsAtWork {
  private readonly thread: AskedThread<ReadingProgress>;

  constructor(
    private readonly platform: Platform,
    onProgress: (step: ReadingProgress) => void,
  ) {
    const { settings, traffic } = platform;
    const data: ReadingThreadOf = { settings, traffic: traffic.shared };
    this.thread = new AskedThread(installed("dist", "readings.mjs"), data, onProgress, "store");
  }

  /** Starts the thread, so that it is ready by the time stores are read. */
  start() {
    this.thread.start();
  }

  /** Reads all stores. @returns null where the application ends meanwhile */
  async read(): Promise<ReadingResult[] | null> {
    const task: ReadingTask = { standsAt: this.platform.clock.standsAt };
    return (await this.thread.ask(task)) as ReadingResult[] | null;
  }

  close(): Promise<void> {
    return this.thread.end();
  }
}
