import { bytesToHex } from "@noble/hashes/utils.js";

/** Bytes in lower-case hex. */
export const hex = bytesToHex;

/** Whether a text is so many bytes in lower-case hex. */
export function isHex(text: string, bytes: number): boolean {
  return text.length === 2 * bytes && /^[0-9a-f]*$/.test(text);
}

/** @param text of an even number of hex digits */
export function hexToBytes(text: string): Uint8Array {
  return Uint8Array.from(text.match(/../g) ?? [], (byte) => parseInt(byte, 16));
}

/** Bytes in base64 with its padding (RFC 4648, section 4). */
export function base64(bytes: Uint8Array): string {
  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(""));
}

/** Null where a text isn't base64 as `base64` writes it: every value is written in one way only. */
export function base64ToBytes(text: string): Uint8Array | null {
  if (text.length % 4 !== 0 || !/^[A-Za-z0-9+/]*={0,2}$/.test(text)) return null;
  const bytes = Uint8Array.from(atob(text), (char) => char.charCodeAt(0));
  return base64(bytes) === text ? bytes : null;
}
