"use client";

import { useEffect } from "react";
import { leaveTo, screenIn } from "../parts/leaveTo";
import { EntrySheet } from "./EntrySheet";

/**
 * Where a provider sends people back to. The browser sends our strict cookies only with what one of our own pages asks
 * for: this one asks.
 */
export function Onward({ to }: { to: string | null }) {
  useEffect(() => leaveTo(screenIn(to)), [to]);
  return (
    <EntrySheet title="Signing in">
      <p role="status">One moment.</p>
    </EntrySheet>
  );
}
