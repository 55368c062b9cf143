import type { FreshEvent } from "@/core/trail/event";
import type { Platform } from "../platform/platform";
import type { Tx } from "../platform/db/open";
import type { Ours } from "../records/events/take";

/** What rooms above do with new facts and events, in the transaction that stores them. */
export interface Listeners {
  /** @returns how many alerts were raised */
  events(tx: Tx, events: readonly FreshEvent[]): Promise<number>;
  /** Which of some keys are those of changes that were sent. */
  ours: Ours;
  /** @param name what was imported, in words @returns how many changes are seen to have been done by hand */
  imported(tx: Tx, name: string): Promise<number>;
}

/** What is needed to read stores and files. */
export interface Reading extends Platform {
  readonly listeners: Listeners;
}
