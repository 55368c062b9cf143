import { type EstateRecord, type ItemRecord, recordKey, type ShareRecord } from "@/core/estate/records";
import type { Tx } from "../platform/db/open";
import { keepFacts, type Seen } from "../records/facts";

/** The types that can disappear from a store without notice. People and groups don't: they only end up with nothing. */
const TYPES = ["item", "grant", "link", "member"] as const;

/** A reading from the beginning: what was known of a store and isn’t reported again has gone from it meanwhile. */
export class Again {
  private readonly seen = new Set<string>();

  constructor(private readonly source: string) {}

  see(all: readonly Seen[]) {
    for (const { record } of all) this.seen.add(`${record.type} ${recordKey(record)}`);
  }

  /** Ends what wasn't reported again, in the transaction that ends the reading. @returns how many facts changed */
  async finish(tx: Tx): Promise<number> {
    const known = tx
      .prepare(
        `select type, key, body from fact where source = ? and "to" is null
          and type in (select value from json_each(?))`,
      )
      .all(this.source, JSON.stringify(TYPES)) as { type: string; key: string; body: string }[];
    const at = tx.clock.text();
    const gone = known
      .filter(({ type, key }) => !this.seen.has(`${type} ${key}`))
      .map(({ body }) => goneNow(JSON.parse(body), at));
    const changed = await keepFacts(tx, this.source, gone);
    await tx.updateTable("connection").set({ reads_again: 0 }).where("id", "=", this.source).execute();
    return changed;
  }
}

/** A share that is gone counts as revoked, an item as gone, and a membership as ended. */
function goneNow(record: EstateRecord, at: string): Seen {
  if (record.type === "member") return { record, at, since: at, gone: true };
  if (record.type === "item") return { record: { ...(record as ItemRecord), state: "gone" }, at, since: at };
  const share = record as ShareRecord;
  return { record: { ...share, revokedAt: share.revokedAt ?? at }, at, since: at };
}
