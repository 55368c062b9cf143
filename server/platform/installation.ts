import { join } from "node:path";

/** A file of the application itself, such as `dist/engine.mjs`, wherever it was started from. */
export function installed(...path: string[]): string {
  return join(/*turbopackIgnore: true*/ process.env.LATCH_ROOT ?? process.cwd(), ...path);
}
