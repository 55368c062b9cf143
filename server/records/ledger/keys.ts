import { createPrivateKey, generateKeyPairSync, sign } from "node:crypto";
import { base64, base64ToBytes } from "@/core/ledger/bytes";
import { keyId, type NoteKey } from "@/core/ledger/checkpoint";
import type { Platform } from "../../platform/platform";
import { type Reads, type Tx, writing } from "../../platform/db/open";
import type { LedgerKeyTable } from "../../platform/db/schema";
import { resealEach } from "../../platform/resealing";
import { appendWithin, lastSeq } from "./ledger";

/** A key by which checkpoints are signed here. */
export interface SigningKey extends NoteKey {
  /** In force from the entry after this one on. */
  since: number;
  sign(text: string): Uint8Array;
}

/** The prefix of the ledger's name, before the organisation's. */
const ORIGIN = "tight-latch";

/** The keys of this ledger, the newest first; the first key is made here if there is none yet. */
export async function signingKeys({ settings, secrets }: Platform, tx: Tx): Promise<SigningKey[]> {
  const known = await tx.selectFrom("ledger_key").selectAll().orderBy("made_after", "desc").execute();
  const rows = known.length > 0 ? known : [await makeKey(tx, secrets, `${ORIGIN}/${new URL(settings.url).host}`, 0)];
  return rows.map((row) => {
    const privateKey = createPrivateKey({
      key: Buffer.from(secrets.unseal(row.sealed), "base64"),
      format: "der",
      type: "pkcs8",
    });
    return { ...told(row), since: row.made_after, sign: (text) => sign(null, Buffer.from(text), privateKey) };
  });
}

/** The public keys, the newest first. */
export async function publicKeys(db: Reads): Promise<NoteKey[]> {
  return (await db.selectFrom("ledger_key").selectAll().orderBy("made_after", "desc").execute()).map(told);
}

/** Makes a new key that signs all further checkpoints; the first of them is signed by the old one as well. */
export function changeKey(app: Platform, actor: string): Promise<NoteKey> {
  return writing(app.db, async (tx) => {
    const [before] = await signingKeys(app, tx);
    // The first key is older than anything in the ledger.
    const last = await lastSeq(tx);
    const key = told(await makeKey(tx, app.secrets, before.name, Math.max(last, 1)));
    await appendWithin(tx, actor, "ledger-key-changed", { before: before.id, key: key.id });
    return key;
  });
}

/** @param after the entry after which it is in force */
async function makeKey(tx: Tx, secrets: Platform["secrets"], name: string, after: number): Promise<LedgerKeyTable> {
  const { publicKey, privateKey } = generateKeyPairSync("ed25519");
  const raw = Buffer.from(publicKey.export({ format: "jwk" }).x!, "base64url");
  const row = {
    ...{ id: keyId(name, raw), name, public_key: base64(raw), made_at: tx.clock.text(), made_after: after },
    sealed: secrets.seal(privateKey.export({ format: "der", type: "pkcs8" }).toString("base64")),
  };
  await tx.insertInto("ledger_key").values(row).execute();
  return row;
}

function told({ id, name, public_key }: LedgerKeyTable): NoteKey {
  return { name, id, publicKey: base64ToBytes(public_key)! };
}

/** @returns how many keys were sealed anew */
export async function resealLedgerKeys({ secrets }: Platform, tx: Tx): Promise<number> {
  const kept = await tx.selectFrom("ledger_key").select(["id", "sealed"]).execute();
  return resealEach(secrets, kept, (id, sealed) =>
    tx.updateTable("ledger_key").set({ sealed }).where("id", "=", id).execute(),
  );
}
