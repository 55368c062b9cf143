import { sha256 as plainSha256 } from "@noble/hashes/sha2.js";
import { utf8ToBytes } from "@noble/hashes/utils.js";

/** SHA-256 of bytes, or of a text in UTF-8. Node has a quicker one than what runs everywhere. */
export type Sha256 = (data: string | Uint8Array) => Uint8Array;

export const sha256: Sha256 = (data) => plainSha256(typeof data === "string" ? utf8ToBytes(data) : data);
