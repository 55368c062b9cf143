import type { Clock } from "./clock";
import type { Db } from "./db/open";
import type { Limits } from "./limits";
import type { Secrets } from "./secrets";
import type { Settings } from "./settings";
import type { Traffic } from "./traffic";

/** What every room of one application stands on. */
export interface Platform {
  readonly settings: Settings;
  readonly clock: Clock;
  readonly secrets: Secrets;
  readonly db: Db;
  readonly limits: Limits;
  readonly traffic: Traffic;
}
