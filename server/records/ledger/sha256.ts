import { hash } from "node:crypto";
import type { Sha256 } from "@/core/ledger/hashing";

/** Node's own, which is several times as quick as what runs everywhere. */
export const sha256: Sha256 = (data) => hash("sha256", data, "buffer");
