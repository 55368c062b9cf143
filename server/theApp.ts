import type { App } from "./app";

// Next compiles routes, pages and start-up apart from each other. What the process serves is one application all the
// same: start-up makes it, and routes and pages find it here. So its code is loaded once, and not with each of them.
const held = globalThis as { tightLatch?: Promise<App> };

/** Holds the application that this process serves. */
export function hold(app: Promise<App>): Promise<App> {
  return (held.tightLatch = app);
}

/** The application that this process serves. @throws {Error} before start-up has made it */
export async function theApp(): Promise<App> {
  if (!held.tightLatch) throw new Error("The application hasn’t been started.");
  return held.tightLatch;
}
