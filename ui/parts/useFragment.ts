import { useSyncExternalStore } from "react";

/** What stands after the # of the address, which no server and no proxy is told; null before the page is alive. */
export function useFragment(): string | null {
  return useSyncExternalStore(
    listen,
    () => location.hash.slice(1),
    () => null,
  );
}

function listen(changed: () => void) {
  addEventListener("hashchange", changed);
  return () => removeEventListener("hashchange", changed);
}
