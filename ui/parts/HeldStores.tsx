import type { HeldStore } from "@/core/changes/states";
import { momentWords } from "./words";

/** Which stores a docket waits for, why, and since when; nothing where it waits for none. */
export function HeldStores({ held }: { held: readonly HeldStore[] }) {
  return held.map(({ store, why, since }) => (
    <span key={store} className="block">
      Waiting for {store} since {momentWords(since)} UTC: {why}
    </span>
  ));
}
