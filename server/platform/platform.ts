import { join } from "node:path";
import type { Clock } from "./clock";
import { type Db, openDatabase } from "./db/open";
import { Limits } from "./limits";
import { Secrets } from "./secrets";
import type { Settings } from "./settings";
import { Traffic } from "./traffic";

/** What every room of one application stands on. */
export interface Platform {
  readonly settings: Settings;
  readonly clock: Clock;
  readonly secrets: Secrets;
  readonly db: Db;
  readonly limits: Limits;
  readonly traffic: Traffic;
}

/** @param traffic that of the application, for a thread that works beside it */
export async function openPlatform(settings: Settings, clock: Clock, traffic = new Traffic()): Promise<Platform> {
  const db = await openDatabase(databasePath(settings), clock);
  return { settings, clock, db, secrets: new Secrets(settings), limits: new Limits(db), traffic };
}

export function databasePath({ data }: Pick<Settings, "data">): string {
  return join(data, "latch.sqlite");
}
