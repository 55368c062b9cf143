import type { Capabilities } from "../core/estate/records";
import { STORES } from "../standins/store/stores";

/** What each stand-in store can do, so that no share is made that its store could not hold. */
export const STORE_LIMITS: Record<string, Capabilities> = Object.fromEntries(
  Object.values(STORES).map((store) => [store.id, store.capabilities]),
);
