import { useSyncExternalStore } from "react";

const inTheDark = () => matchMedia("(prefers-color-scheme: dark)");

/** Whether the page is light or dark. What is drawn on a canvas has to be drawn again when that changes, at sunset say. */
export function useScheme(): "light" | "dark" {
  return useSyncExternalStore(
    listen,
    () => (inTheDark().matches ? "dark" : "light"),
    () => "light",
  );
}

function listen(changed: () => void) {
  const scheme = inTheDark();
  scheme.addEventListener("change", changed);
  return () => scheme.removeEventListener("change", changed);
}
