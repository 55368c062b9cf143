import type { Seconds } from "@/core/time/instant";
import type { Carrying } from "../dockets/carrying";

/** What one application is at with its rounds. */
export class RoundsAtWork {
  /** By number: those that are being opened, and those that are being closed. */
  readonly opening = new Map<number, Promise<void>>();
  readonly closing = new Map<number, Promise<void>>();
  /** By number: when it was last looked whether they still ask about what is so. */
  readonly looked = new Map<number, Seconds>();
}

/** What is needed to hold rounds. */
export interface Rounding extends Carrying {
  readonly rounding: RoundsAtWork;
}
