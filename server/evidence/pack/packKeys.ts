import { createHmac } from "node:crypto";
import { Pseudonyms } from "@/core/evidence/pseudonyms";
import { Problem } from "../../platform/problem";
import type { Platform } from "../../platform/platform";
import type { Reads, Tx } from "../../platform/db/open";
import { resealEach } from "../../platform/resealing";
import { addressesKnown, peopleEver } from "../../records/facts";
import { homeDomains } from "../../records/homeDomains";
import { append } from "../../records/ledger/ledger";

/** As long as what HMAC-SHA-256 gives (RFC 2104, section 3). */
export const KEY_BYTES = 32;

/** Pseudonyms for outsiders, different in each pack. */
export async function pseudonymsBy({ db }: { db: Reads }, key: Uint8Array): Promise<Pseudonyms> {
  const hmac = (text: string) => createHmac("sha256", key).update(text).digest("hex");
  return new Pseudonyms(hmac, await homeDomains(db));
}

/** The same, which know everybody’s name: some tables have names alone. */
export async function pseudonymsOfAll(app: { db: Reads }, key: Uint8Array): Promise<Pseudonyms> {
  const pseudonyms = await pseudonymsBy(app, key);
  for (const person of peopleEver(app.db)) pseudonyms.meet(person);
  return pseudonyms;
}

/** Keeps the key of a pack's pseudonyms here, encrypted, so that nobody else can tell who they are. */
export async function keepPackKey({ secrets }: Platform, tx: Tx, seq: number, key: Uint8Array) {
  const sealed = secrets.seal(Buffer.from(key).toString("base64"));
  await tx.insertInto("pack_key").values({ seq, sealed }).execute();
}

/**
 * Who a pack's pseudonym stands for, or which organisation; each such look is recorded in the ledger.
 * @throws {Problem} if the pack has no pseudonyms, or this one belongs to nobody known
 */
export async function whose(app: Platform, seq: number, pseudonym: string, actor: string): Promise<string> {
  const row = await app.db.selectFrom("pack_key").select("sealed").where("seq", "=", seq).executeTakeFirst();
  if (!row) throw new Problem("unknown", `The pack of entry ${seq} has no pseudonyms.`);
  const pseudonyms = await pseudonymsBy(app, Buffer.from(app.secrets.unseal(row.sealed), "base64"));
  await append(app.db, actor, "pseudonym-looked-up", { pack: seq, pseudonym });
  for (const address of await addressesKnown(app.db)) {
    const name = pseudonyms.address(address);
    if (name === pseudonym) return address;
    if (name.endsWith(`@${pseudonym}`)) return address.slice(address.lastIndexOf("@") + 1);
  }
  throw new Problem("unknown", `Nobody known here has the pseudonym ${pseudonym} in that pack.`);
}

export async function resealPackKeys({ secrets }: Platform, tx: Tx): Promise<number> {
  const kept = (await tx.selectFrom("pack_key").selectAll().execute()).map(({ seq, sealed }) => ({ id: seq, sealed }));
  return resealEach(secrets, kept, (seq, sealed) =>
    tx.updateTable("pack_key").set({ sealed }).where("seq", "=", seq).execute(),
  );
}
