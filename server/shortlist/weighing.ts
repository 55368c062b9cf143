import { STANDARD_WEIGHING, type Weighing, weighingSchema } from "@/core/advice/weighing";
import { type Db, type Reads, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";

const NOBODY = "";
const NAME = "weighing";

/** What counts in the choice of what to shut first. */
export async function weighingSetting(db: Reads): Promise<Weighing> {
  const kept = await savedText(db, NOBODY, NAME);
  return kept === undefined ? STANDARD_WEIGHING : weighingSchema.parse(JSON.parse(kept));
}

export function setWeighing(db: Db, after: Weighing, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const before = await weighingSetting(tx);
    await saveText(tx, NOBODY, NAME, JSON.stringify(after));
    await appendWithin(tx, actor, "weighing-set", { before, after });
  });
}
