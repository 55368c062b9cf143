import { firstRunCode } from "./people/firstRun";
import { database } from "./platform/db/open";
import { resumeInterrupted } from "./dockets/executor";
import { engine } from "./engine/client";
import { keepTime, keepWatch } from "./keeper";
import { settings } from "./platform/settings";

/** What happens once when the server starts, before the first request. */
export async function start(): Promise<void> {
  const db = await database();
  const { url, readEverySeconds, watchEverySeconds } = settings();
  const code = await firstRunCode(db);
  if (code) console.log(`No administrator yet. Open ${url}/first-run and give this code: ${code}`);
  await engine().ask("refresh", {});
  await resumeInterrupted(db);
  keepTime(db, readEverySeconds);
  keepWatch(db, watchEverySeconds);
}
