import { normaliseDomain } from "@/core/estate/address";
import { SETTINGS } from "@/core/estate/believed";
import type { RecordOf } from "@/core/estate/records";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "./ledger/ledger";
import { factNow, keepFacts } from "./facts";

/** The domains whose addresses count as home; none until somebody sets them. */
export async function homeDomains(db: Reads): Promise<string[]> {
  return (await factNow<RecordOf<"estate">>(db, "estate", "estate"))?.homeDomains ?? [];
}

/** The key under which the organisation's name is stored. */
const NAME = "house";

/** The organisation's name; empty until somebody sets it. */
export async function houseName(db: Reads): Promise<string> {
  return (await savedText(db, "", NAME)) ?? "";
}

/** Sets the organisation's name, with which reports and packs begin. */
export async function setHouseName(db: Db, actor: string, name: string): Promise<void> {
  await writing(db, async (tx) => {
    const before = await houseName(tx);
    if (before === name) return;
    await saveText(tx, "", NAME, name);
    await appendWithin(tx, actor, "house-named", { before, name });
  });
}

/**
 * Takes home domains from a source if none are set yet.
 * @returns whether those of the source hold now
 */
export async function offerHomeDomains(db: Tx, head: RecordOf<"estate">): Promise<boolean> {
  const known = await homeDomains(db);
  if (known.length === 0)
    return (await keepFacts(db, SETTINGS, [{ record: head, at: db.clock.text(), since: null }])) === 1;
  const sorted = (domains: readonly string[]) => [...new Set(domains.map(normaliseDomain))].sort().join();
  return sorted(known) === sorted(head.homeDomains);
}

/** Sets them from now on, in the form in which domains are compared; for the past, those set then still count. */
export async function setHomeDomains(db: Db, actor: string, domains: string[]): Promise<void> {
  await writing(db, async (within) => {
    const before = await homeDomains(within);
    if (before.join() === [...new Set(domains.map(normaliseDomain))].join()) return;
    const at = within.clock.text();
    const record: RecordOf<"estate"> = {
      type: "estate",
      version: 1,
      asOf: at,
      homeDomains: [...new Set(domains.map(normaliseDomain))],
    };
    await keepFacts(within, SETTINGS, [{ record, at, since: null }]);
    await appendWithin(within, actor, "home-domains-set", { before, domains: record.homeDomains });
  });
}
