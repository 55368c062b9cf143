"use client";

import { useEffect, useLayoutEffect, useRef, useSyncExternalStore } from "react";

const OFF = "single-keys";
const CHANGED = "latch-keys";

/** Whether single keys do something here. They can be switched off, for whoever speaks or whose hands slip: WCAG 2.1.4. */
export function useKeysOn(): [isOn: boolean, turn: (isOn: boolean) => void] {
  const isOn = useSyncExternalStore(onChange, areOn, () => true);
  const turn = (isOn: boolean) => {
    if (isOn) localStorage.removeItem(OFF);
    else localStorage.setItem(OFF, "off");
    window.dispatchEvent(new Event(CHANGED));
  };
  return [isOn, turn];
}

const areOn = () => localStorage.getItem(OFF) === null;

function onChange(told: () => void): () => void {
  window.addEventListener(CHANGED, told);
  return () => window.removeEventListener(CHANGED, told);
}

/** Keys that work anywhere on the screen, but not while something is typed or asked. */
export function useKeys(keys: Record<string, () => unknown>) {
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
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping) return;
      const act = latest.current[event.key];
      if (!act || (event.key.length === 1 && !areOn())) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
