import { Standing } from "../core/access/standing";
import { reachOf } from "../core/access/reach";
import { decidedIn } from "../server/decided";
import { openDatabase } from "../server/platform/db/open";
import { currentSource } from "../server/engine/source";

/** What a process of its own tells of a cold start; times in milliseconds, memory in megabytes. */
export interface Start {
  firstAnswer: number;
  memory: number;
  bareMemory: number;
}

const megabytes = () => process.memoryUsage().rss / 1e6;

/** Starts the engine cold, asks it what is open outside, then all it keeps ready, and looks at the memory. */
export async function coldStart(path: string): Promise<Start> {
  const bareMemory = megabytes();
  const begin = performance.now();
  const db = await openDatabase(path);
  const source = currentSource(db, { path: `${path}.columns`, build: "bench" }, decidedIn(db));
  const begun = await source.begin();
  const { estate } = begun;
  const standing = new Standing(estate);
  standing.outsideAt(estate.asOf);
  const firstAnswer = performance.now() - begin;
  await source.keep(begun);
  reachOf(estate, estate.asOf, 0, standing.waysIn);
  const memory = megabytes();
  await db.destroy();
  return { firstAnswer, memory, bareMemory };
}
