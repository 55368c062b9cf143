"use client";

import { createContext, useContext } from "react";
import type { Seconds } from "@/core/time/instant";

/** Who looks, and at what time the page was made. */
export interface Viewer {
  name: string;
  mayChange: boolean;
}

export const ViewerContext = createContext<{ viewer: Viewer; now: Seconds } | null>(null);

export function useViewer() {
  const value = useContext(ViewerContext);
  if (!value) throw new Error("useViewer is for what stands within the console's frame");
  return value;
}
