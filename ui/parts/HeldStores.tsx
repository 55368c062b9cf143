import type { HeldStore } from "@/core/changes/states";
import { useDates } from "./useDates";

/** Which stores a docket waits for, why, and since when; nothing where it waits for none. */
export function HeldStores({ held }: { held: readonly HeldStore[] }) {
  const dates = useDates();
  return held.map(({ store, why, since }) => (
    <span key={store} className="block">
      Waiting for {store} since {dates.zoned(since)}: {why}
    </span>
  ));
}
