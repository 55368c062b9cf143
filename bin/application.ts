import type { App } from "../server/app";

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
