import { rfc3339, type Seconds } from "@/core/time/instant";

/** What time it is for one application: what the machine says, or an instant that is set and stands still. */
export class Clock {
  /** @param standsAt where it stands still, for tests and pictures */
  constructor(public standsAt?: Date) {}

  /** Now, in whole seconds. */
  seconds(): Seconds {
    return Math.floor((this.standsAt?.getTime() ?? Date.now()) / 1000);
  }

  /** Now, as records and entries hold it. */
  text(): string {
    return rfc3339(this.seconds());
  }
}

/** Seconds that go on even where a clock stands still: for how long work has been going on, and nothing else. */
export function runningSeconds(): Seconds {
  return Math.floor(Date.now() / 1000);
}
