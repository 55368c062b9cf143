import { useSyncExternalStore } from "react";

const never = () => () => {};

/** Whether the page's script runs: what came from the server is looked at before it does anything. */
export function useIsLive(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
