import { type App, createApp } from "./app";
import { keepFilesToOwner } from "./platform/ownFiles";
import { settingsFrom } from "./platform/settings";

// Next compiles routes and start-up apart from each other: what the process serves is one application all the same.
const held = globalThis as { tightLatch?: Promise<App> };

/** The application that this process serves, made at the first call from the settings of its environment. */
export function theApp(): Promise<App> {
  return (held.tightLatch ??= Promise.resolve(process.env).then((environment) => {
    keepFilesToOwner();
    return createApp({ settings: settingsFrom(environment) });
  }));
}
