import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";

/** What is really in use, in bytes, after everything else has been cleared away. */
export function memoryInUse(): number {
  setFlagsFromString("--expose_gc");
  runInNewContext("gc")();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
}
