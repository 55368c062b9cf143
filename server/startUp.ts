import { createApp, start } from "./app";
import { keepFilesToOwner } from "./platform/ownFiles";
import { settingsFrom } from "./platform/settings";
import { hold } from "./theApp";

/** Makes the application that this process serves, from the settings of its environment, and sets it going. */
export async function startUp(): Promise<void> {
  keepFilesToOwner();
  await start(await hold(createApp({ settings: settingsFrom(process.env) })));
}
