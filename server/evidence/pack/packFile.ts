import { join } from "node:path";
import type { Platform } from "../../platform/platform";

/** Where the pack of a ledger entry is kept. */
export function packFile({ settings }: Platform, seq: number): string {
  return join(settings.data, "packs", `${seq}.zip`);
}
