import { setImmediate } from "node:timers/promises";
import type { Steps } from "@/core/time/steps";

/** Works something out piece by piece; others are answered in between. @returns null where it holds no longer meanwhile */
export async function inPieces<T>(steps: Steps<T>, isStill: () => boolean): Promise<T | null> {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
    await setImmediate();
    if (!isStill()) return null;
  }
}
