import type { ledgerOperations } from "@/contract/ledger";
import type { Platform } from "../platform/platform";
import type { Handlers } from "../platform/serving";
import { entriesBefore, verifyLedger } from "./ledger";

/** So many entries are shown at once. */
const PAGE = 100;

export const ledgerHandlers: Handlers<Platform, typeof ledgerOperations> = {
  entries: async ({ db }, { query }) => ({ entries: await entriesBefore(db, query.before, PAGE) }),
  proof: ({ db }) => verifyLedger(db),
};
