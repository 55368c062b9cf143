import type { Seconds } from "@/core/time/instant";
import type { Carrying } from "../dockets/carrying";

/** What an application is doing with its rounds. */
export class RoundsAtWork {
  /** By number: rounds being opened, and rounds being closed. */
  readonly opening = new Map<number, Promise<void>>();
  readonly closing = new Map<number, Promise<void>>();
  /** By number: when they were last compared with the estate. */
  readonly looked = new Map<number, Seconds>();
}

/** What is needed to hold rounds. */
export interface Rounding extends Carrying {
  readonly rounding: RoundsAtWork;
}
