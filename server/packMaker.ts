import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { decidedIn } from "./decided";
import { engineFile } from "./engine/client";
import { OneInstant } from "./engine/oneInstant";
import type { PackMaker } from "./evidence/pack/make";
import { databasePath, type Platform } from "./platform/platform";

/** What packs are made with. The columns are those that the engine keeps, which says by its build whether they hold. */
export async function packMaker(platform: Platform): Promise<PackMaker> {
  const build = createHash("sha256")
    .update(await readFile(engineFile()))
    .digest("hex");
  const columns = { path: `${databasePath(platform.settings)}.columns`, build };
  const engine = new OneInstant(platform.db, platform.clock, columns, decidedIn(platform.db));
  return { ...platform, engine };
}
