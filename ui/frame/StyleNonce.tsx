"use client";

import { setNonce } from "get-nonce";

/** Lets the packages that add styles of their own (Radix, by react-style-singleton) say that the page wanted them. */
export function StyleNonce({ nonce }: { nonce: string }) {
  setNonce(nonce);
  return null;
}
