import { guarded } from "@/server/http/guard";
import { verifyLedger } from "@/server/records/ledger";

export const GET = guarded("read", ({ db }) => verifyLedger(db));
