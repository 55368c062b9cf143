import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { recordLine } from "../core/estate/estateFile";
import type { EstateRecord } from "../core/estate/records";
import { STORE_LIMITS } from "./limits";
import { type Demo, makeDemo } from "./scenario";

/** Writes the demo's data: a file of records for each stand-in store, and the house's own file for import. */
const folder = z.string().min(1).parse(process.argv[2]);
const demo = makeDemo(process.env.LATCH_NOW ? new Date(process.env.LATCH_NOW) : new Date());
mkdirSync(folder, { recursive: true });

for (const storeId of Object.keys(STORE_LIMITS)) {
  const items = demo.items.filter((item) => item.storeId === storeId);
  const ids = new Set(items.map((item) => item.id));
  const shares = demo.shares.filter((share) => ids.has(share.itemId));
  const acts = demo.acts.filter((act) => ids.has(act.itemId ?? ""));
  const directory = directoryOf(demo, storeId);
  const passwords = [...demo.passwords]
    .filter(([linkId]) => shares.some(({ id }) => id === linkId))
    .map(([linkId, password]) => JSON.stringify({ type: "password", linkId, password }));
  const records = [...items, ...shares, ...acts].map((record) => recordLine(record, { withAddresses: true }));
  write(`${storeId}.jsonl`, [...directory, ...records, ...passwords]);
}
write(
  "house.jsonl",
  demo.house.map((record) => JSON.stringify(record)),
);

/** The people whom a store knows, and where it grants something to groups, its own groups of them. */
function directoryOf({ directory, since }: Demo, storeId: string): string[] {
  const grantsToGroups = STORE_LIMITS[storeId].grantExpiry.length > 0;
  return directory
    .filter(({ type }) => type === "person" || grantsToGroups)
    .map((record) => JSON.stringify({ ...record, ...inStore(record, storeId, since) }));
}

/** A membership has no date of its own; its store knows since when it has been one. */
function inStore({ type }: EstateRecord, storeId: string, since: string) {
  return type === "member" ? { since } : type === "group" ? { storeId } : {};
}

function write(name: string, lines: string[]) {
  writeFileSync(join(folder, name), lines.join("\n") + "\n");
}
