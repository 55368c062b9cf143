import type { App } from "../server/app";
import type { Platform } from "../server/platform/platform";

/** Who does what is told from here, as the ledger has it. */
export const BY_COMMAND = "command line";

/** The application over the database of LATCH_DATA. It loads the server only when called. */
export async function application(): Promise<App> {
  const [{ createApp }, { settingsFrom }] = await Promise.all([
    import("../server/app"),
    import("../server/platform/settings"),
  ]);
  return createApp({ settings: settingsFrom(process.env) });
}

/** What it stands on, for what needs no more of it. */
export async function platform(): Promise<Platform> {
  const [{ openPlatform }, { Clock }, { settingsFrom }] = await Promise.all([
    import("../server/platform/platform"),
    import("../server/platform/clock"),
    import("../server/platform/settings"),
  ]);
  const settings = settingsFrom(process.env);
  return openPlatform(settings, new Clock(settings.now));
}
