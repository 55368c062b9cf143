import { type Held, LedgerCheck, type Proof } from "@/core/ledger/check";
import type { Reads } from "../../platform/db/open";
import type { LedgerTable } from "../../platform/db/schema";
import { sha256 } from "./sha256";

const PAGE = 5_000;

/** Reads the whole ledger, page by page, and checks it all. @param held checkpoints to compare it with */
export async function verifyLedger(db: Reads, held: readonly Held[] = []): Promise<Proof> {
  const check = new LedgerCheck(sha256, held);
  for await (const row of allRows(db)) {
    const fault = check.take(row);
    if (fault) return { unbroken: false, ...fault };
  }
  return check.end();
}

async function* allRows(db: Reads): AsyncGenerator<LedgerTable> {
  for (let after = 0; ;) {
    const rows = await db
      .selectFrom("ledger")
      .selectAll()
      .where("seq", ">", after)
      .orderBy("seq")
      .limit(PAGE)
      .execute();
    if (rows.length === 0) return;
    yield* rows;
    after = rows[rows.length - 1].seq;
  }
}
