import { join } from "node:path";
import type { Platform } from "../../platform/platform";

/** Where the pack of a ledger entry is kept. */
export function packFile({ settings }: Pick<Platform, "settings">, seq: number): string {
  return join(settings.data, "packs", `${seq}.zip`);
}
