import { type Db, writing } from "../../platform/db/open";
import { Problem } from "../../platform/problem";
import { appendWithin } from "./ledger";

/**
 * Takes out of an entry for good what can name somebody outside (Regulation (EU) 2016/679, Art. 17). That it was taken
 * out is an entry of its own; every proof still holds.
 * @throws {Problem} where the entry has no detail
 */
export function eraseDetail(db: Db, seq: number, reason: string, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { numUpdatedRows } = await tx
      .updateTable("ledger")
      .set({ detail: null, salt: null })
      .where("seq", "=", seq)
      .where("detail", "is not", null)
      .executeTakeFirst();
    if (numUpdatedRows === 0n)
      throw new Problem("unknown", `Entry ${seq} has no detail: it doesn’t exist, or it names nobody outside.`);
    await appendWithin(tx, actor, "detail-erased", { entry: seq, reason });
  });
}
