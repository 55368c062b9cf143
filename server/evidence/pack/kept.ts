import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { Readable } from "node:stream";
import type { KeptPack } from "@/contract/ledger";
import type { Platform } from "../../platform/platform";
import { Problem } from "../../platform/problem";
import type { FileAnswer } from "../../platform/serving";
import { entriesOfKind } from "../../records/ledger/ledger";
import { packFile } from "./packFile";

/** Packs that were made, the newest first; `bytes` is null if the file is no longer kept. */
export async function keptPacks(app: Platform): Promise<KeptPack[]> {
  const entries = await entriesOfKind(app.db, "pack-made");
  const keys = new Set((await app.db.selectFrom("pack_key").select("seq").execute()).map(({ seq }) => seq));
  return Promise.all(
    entries.map(async ({ seq, at, actor, body: { from, to, scope } }) => {
      const file = await stat(packFile(app, seq)).catch(() => null);
      return {
        ...{ seq, at, by: actor, from, to, scope: scope ?? "", pseudonyms: keys.has(seq) },
        bytes: file?.size ?? null,
      };
    }),
  );
}

/** @throws {Problem} where no pack of that entry is kept */
export async function packAnswer(app: Platform, seq: number): Promise<FileAnswer> {
  const path = packFile(app, seq);
  if (!(await stat(path).catch(() => null))) throw new Problem("unknown", `No pack of entry ${seq} is kept.`);
  return {
    ...{ type: "application/zip", name: `pack-${seq}.zip` },
    body: Readable.toWeb(createReadStream(path)) as ReadableStream,
  };
}
