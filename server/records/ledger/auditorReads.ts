import { HOUR, type Seconds } from "@/core/time/instant";
import type { Db } from "../../platform/db/open";
import { append } from "./ledger";

/** Looking at the same thing again within this time counts as one look. */
const ONE_LOOK_S = HOUR;

/** Records in the ledger what auditors look at that names outsiders, before they see it. */
export class AuditorReads {
  private readonly lastAt = new Map<string, Seconds>();

  constructor(private readonly db: Db) {}

  /** @param address of what was asked for, whole */
  async note(auditor: string, address: string): Promise<void> {
    const now = this.db.clock.seconds();
    const { pathname, search } = new URL(address);
    const key = `${auditor} ${pathname}${search}`;
    if (now - (this.lastAt.get(key) ?? -Infinity) < ONE_LOOK_S) return;
    for (const [old, at] of this.lastAt) if (now - at >= ONE_LOOK_S) this.lastAt.delete(old);
    // Before it is written, so that two requests at once count as one look.
    this.lastAt.set(key, now);
    const asked = new URLSearchParams(search).toString();
    await append(this.db, auditor, "read-by-auditor", { what: pathname, asked }).catch((error) => {
      // If it couldn't be recorded, it isn't shown.
      this.lastAt.delete(key);
      throw error;
    });
  }
}
