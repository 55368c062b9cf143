"use client";

import { createContext, useContext } from "react";
import type { Seconds } from "@/core/time/instant";

/** Who looks. */
export interface Viewer {
  name: string;
  /** By which they sign in. */
  address: string;
  mayChange: boolean;
}

/** Who looks, and from which instant: now, or a past one, from which nothing can be changed. */
export interface Standpoint {
  viewer: Viewer;
  /** The instant that is shown. */
  now: Seconds;
  /** The past instant as it stands in the address bar; null is now. */
  past: string | null;
}

export const StandpointContext = createContext<Standpoint | null>(null);

export function useStandpoint(): Standpoint {
  const value = useContext(StandpointContext);
  if (!value) throw new Error("useStandpoint is for what stands within the console's frame");
  return value;
}

/** An address of ours, asked from a standpoint. */
export function asOf(path: string, past: string | null): string {
  if (past === null) return path;
  return `${path}${path.includes("?") ? "&" : "?"}at=${encodeURIComponent(past)}`;
}

/** Where the help begins with the screen at a path. */
export function helpFor(path: string, past: string | null): string {
  return asOf(path.startsWith("/help") ? "/help" : `/help?on=${encodeURIComponent(path)}`, past);
}
