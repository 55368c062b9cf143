import type { LinkRecord } from "@/core/estate/records";
import { type Db, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { factNow } from "./facts";
import { appendWithin } from "./ledger/ledger";

/** The address of a link, which lets in whoever has it; the ledger records who was shown it. @throws {Problem} if it has none */
export function showAddress(db: Db, actor: string, shareId: string): Promise<string> {
  return writing(db, async (tx) => {
    const link = await factNow<LinkRecord>(tx, "link", shareId);
    if (!link?.address) throw new Problem("unknown", "No address is known for this share.");
    await appendWithin(tx, actor, "address-shown", { shareId });
    return link.address;
  });
}
