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
