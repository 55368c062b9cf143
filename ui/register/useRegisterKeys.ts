"use client";

import { useEffect, useLayoutEffect, useRef } from "react";

/** Keys that work anywhere on the screen, but not while something is typed or asked. */
export function useRegisterKeys(keys: Record<string, () => unknown>) {
  // Before anything is painted: whoever sees what a key would do, can press it.
  const latest = useRef(keys);
  useLayoutEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const isTyping =
        target.matches("input:not([type=checkbox]), textarea, select") ||
        target.closest("[role=dialog], [role=alertdialog]");
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping) return;
      const act = latest.current[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
