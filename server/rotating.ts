import { type Tx, writing } from "./platform/db/open";
import { Problem } from "./platform/problem";
import type { Platform } from "./platform/platform";
import { resealPackKeys } from "./evidence";
import { resealLedgerKeys } from "./records/ledger/keys";
import { appendWithin } from "./records/ledger/ledger";
import { resealChannels } from "./messages/channels";
import { resealLetters } from "./messages/letters";
import { resealPassphrases } from "./dockets/passphrases";
import { resealConnections } from "./stores/connections";

/**
 * Makes a new key, where keys come from the key file, and seals by the newest whatever is sealed. Older keys stay, to
 * read the signatures of addresses that have gone out in letters.
 * @returns how many secrets were sealed anew
 */
export function rotateKey(app: Platform, actor: string): Promise<number> {
  const { ring } = app.secrets;
  if (!ring.isSetOutside) ring.add();
  return writing(app.db, async (tx) => {
    const resealed = await resealAll(app, tx);
    await appendWithin(tx, actor, "key-rotated", { key: ring.newest.id, resealed });
    return resealed;
  });
}

/**
 * Forgets all keys of the key file but the newest: what they signed holds no longer.
 * @returns how many are gone
 * @throws {Problem} where the keys don't come from the key file
 */
export function forgetOlderKeys(app: Platform, actor: string): Promise<number> {
  const { ring } = app.secrets;
  if (ring.isSetOutside) throw new Problem("bad", "The keys are set by LATCH_SECRET: leave out LATCH_OLDER_SECRET.");
  return writing(app.db, async (tx) => {
    // Something may have been sealed at the moment in which the key was changed.
    await resealAll(app, tx);
    const forgotten = ring.forgetOlder();
    await appendWithin(tx, actor, "older-keys-forgotten", { forgotten });
    return forgotten;
  });
}

async function resealAll(app: Platform, tx: Tx): Promise<number> {
  let count = 0;
  const all = [resealConnections, resealChannels, resealLetters, resealPassphrases, resealLedgerKeys, resealPackKeys];
  for (const reseal of all) count += await reseal(app, tx);
  return count;
}
