import { guarded } from "@/server/auth/guard";
import { verifyLedger } from "@/server/ledger/ledger";

export const GET = guarded("read", ({ db }) => verifyLedger(db));
