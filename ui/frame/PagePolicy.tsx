"use client";

import { setNonce } from "get-nonce";
import { z } from "zod";

// Zod would compile its schemas, and tries whether it may: the page's policy lets nothing be compiled.
z.config({ jitless: true });

/** Keeps what packages do by themselves within the page's policy: styles that they add say that the page wanted them. */
export function PagePolicy({ nonce }: { nonce: string }) {
  setNonce(nonce);
  return null;
}
