import { sha256 as plainSha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";

/** SHA-256 of bytes, or of a text in UTF-8. Node has a quicker one than what runs everywhere. */
export interface Sha256 {
  (data: string | Uint8Array): Uint8Array;
  /** The same in hex. */
  hex(data: string | Uint8Array): string;
}

const plain = (data: string | Uint8Array) => plainSha256(typeof data === "string" ? utf8ToBytes(data) : data);

export const sha256: Sha256 = Object.assign(plain, { hex: (data: string | Uint8Array) => bytesToHex(plain(data)) });
