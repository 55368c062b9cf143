import { type Belief, SETTINGS } from "@/core/estate/believed";
import { byText } from "@/core/text/text";
import { type Db, type Reads, writing } from "../platform/db/open";
import type { SourceTable } from "../platform/db/schema";
import { Problem } from "../platform/problem";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "./ledger/ledger";

/** The key under which the chosen order is stored. */
const ORDER = "belief";

/** A source, and since when it has told anything. */
export interface KnownSource {
  name: string;
  kind: SourceTable["kind"];
  firstToldAt: string;
}

/** Every source, those believed first at the top: as set, or else directories first, then by name. */
export async function knownSources(db: Reads): Promise<KnownSource[]> {
  const sources = await db.selectFrom("source").selectAll().where("name", "<>", SETTINGS).execute();
  const order = JSON.parse((await savedText(db, "", ORDER)) ?? "[]") as string[];
  const rank = (name: string) => (order.includes(name) ? order.indexOf(name) : order.length);
  const isOther = ({ kind }: { kind: SourceTable["kind"] }) => Number(kind !== "directory");
  return sources
    .sort((a, b) => rank(a.name) - rank(b.name) || isOther(a) - isOther(b) || byText(a.name, b.name))
    .map(({ name, kind, first_told_at: firstToldAt }) => ({ name, kind, firstToldAt }));
}

/** Which sources to believe first. This applies to past instants too: it is about trust, not about what anybody said. */
export async function beliefIn(db: Reads): Promise<Belief> {
  return (await knownSources(db)).map(({ name }) => name);
}

/** Sets which sources to believe first. @throws {Problem} unless each source is named once */
export async function setBelief(db: Db, order: readonly string[], actor: string): Promise<void> {
  await writing(db, async (tx) => {
    const before = await beliefIn(tx);
    if ([...order].sort().join() !== [...before].sort().join())
      throw new Problem("conflict", "Another source has been read since. Check the order again, then save it.");
    await saveText(tx, "", ORDER, JSON.stringify(order));
    await appendWithin(tx, actor, "belief-set", { before: [...before], order: [...order] });
  });
}
