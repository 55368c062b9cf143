import { rfc3339, type Seconds } from "@/core/time/instant";

/** The time for one application: the machine's, or a fixed instant. */
export class Clock {
  /** @param standsAt a fixed instant, for tests and pictures */
  constructor(public standsAt?: Date) {}

  /** Now, in whole seconds. */
  seconds(): Seconds {
    return Math.floor((this.standsAt?.getTime() ?? Date.now()) / 1000);
  }

  /** Now, in the form of records and entries. */
  text(): string {
    return rfc3339(this.seconds());
  }
}

/** Seconds that pass even while a clock stands still: only for measuring how long work takes. */
export function runningSeconds(): Seconds {
  return Math.floor(Date.now() / 1000);
}
