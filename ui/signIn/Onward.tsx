"use client";

import { useEffect } from "react";
import { leaveTo } from "../parts/leaveTo";
import { EntrySheet } from "./EntrySheet";

/**
 * Where a provider sends people back to. The browser sends our strict cookies only with what one of our own pages asks
 * for: this one asks.
 */
export function Onward() {
  useEffect(() => leaveTo("/register"), []);
  return (
    <EntrySheet title="Signing in">
      <p role="status">One moment.</p>
    </EntrySheet>
  );
}
