import { rfc3339, type Seconds } from "@/core/time/instant";
import { settings } from "./settings";

/** Now, in whole seconds; the one place where the server asks the time. */
export function nowSeconds(): Seconds {
  return Math.floor((settings().now?.getTime() ?? Date.now()) / 1000);
}

/** Now as records and entries hold it. */
export function nowText(): string {
  return rfc3339(nowSeconds());
}

/** Seconds that go on even where the clock is fixed: for how long work has been going on, and nothing else. */
export function runningSeconds(): Seconds {
  return Math.floor(Date.now() / 1000);
}
