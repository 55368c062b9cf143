import { firstRunCode } from "./auth/firstRun";
import { database } from "./db/open";
import { resumeInterrupted } from "./dockets/executor";
import { engine } from "./engine/client";
import { keepTime, keepWatch } from "./reading/keeper";
import { settings } from "./settings";

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
