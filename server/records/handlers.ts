import type { ledgerOperations } from "@/contract/ledger";
import type { Platform } from "../platform/platform";
import type { Handlers } from "../platform/serving";
import { entriesBefore } from "./ledger/ledger";
import { verifyLedger } from "./ledger/verify";

/** So many entries are shown at once. */
const PAGE = 100;

export const ledgerHandlers: Handlers<Platform, typeof ledgerOperations> = {
  async entries({ db }, { query }) {
    const entries = await entriesBefore(db, query.before, PAGE, query.q);
    const last = entries[PAGE - 1];
    return { entries, next: last && last.seq > 1 ? last.seq : null };
  },
  proof: ({ db }) => verifyLedger(db),
};
