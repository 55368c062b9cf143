import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { recordLine } from "../core/estate/estateFile";
import { STORE_LIMITS } from "./limits";
import { makeDemo } from "./scenario";

/** Writes the demo's data: a file of records for each stand-in store, and the house's own file for import. */
const folder = z.string().min(1).parse(process.argv[2]);
const demo = makeDemo(process.env.LATCH_NOW ? new Date(process.env.LATCH_NOW) : new Date());
mkdirSync(folder, { recursive: true });

for (const storeId of Object.keys(STORE_LIMITS)) {
  const items = demo.items.filter((item) => item.storeId === storeId);
  const ids = new Set(items.map((item) => item.id));
  const shares = demo.shares.filter((share) => ids.has(share.itemId));
  const acts = demo.acts.filter((act) => ids.has(act.itemId ?? ""));
  const directory = storeId === "stacks" ? demo.directory : [];
  const passwords = [...demo.passwords]
    .filter(([linkId]) => shares.some(({ id }) => id === linkId))
    .map(([linkId, password]) => JSON.stringify({ type: "password", linkId, password }));
  const records = [...directory, ...items, ...shares, ...acts];
  write(`${storeId}.jsonl`, [...records.map((record) => recordLine(record, { withAddresses: true })), ...passwords]);
}
write(
  "house.jsonl",
  demo.house.map((record) => JSON.stringify(record)),
);

function write(name: string, lines: string[]) {
  writeFileSync(join(folder, name), lines.join("\n") + "\n");
}
