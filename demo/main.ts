import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { recordLine } from "../core/estate/estateFile";
import { STORE_LIMITS } from "./limits";
import { peopleLists } from "./lists";
import { makeDemo } from "./scenario";
import { seedOf } from "./seeds";

/** Writes the demo's data: a file of records for each stand-in store, the house's own file for import, and its directory's lists. */
const folder = z.string().min(1).parse(process.argv[2]);
const now = process.env.LATCH_NOW ? new Date(process.env.LATCH_NOW) : new Date();
const demo = makeDemo(now);
mkdirSync(folder, { recursive: true });

for (const storeId of Object.keys(STORE_LIMITS)) {
  const records = seedOf(demo, storeId);
  const links = new Set(records.flatMap((record) => (record.type === "link" ? [record.id] : [])));
  const passwords = [...demo.passwords]
    .filter(([linkId]) => links.has(linkId))
    .map(([linkId, password]) => JSON.stringify({ type: "password", linkId, password }));
  write(`${storeId}.jsonl`, [...records.map((record) => recordLine(record, { withAddresses: true })), ...passwords]);
}
write(
  "house.jsonl",
  demo.house.map((record) => JSON.stringify(record)),
);

const lists = peopleLists(demo.directory, now);
writeFileSync(join(folder, "people-before.csv"), lists.before);
writeFileSync(join(folder, "people.csv"), lists.now);

function write(name: string, lines: string[]) {
  writeFileSync(join(folder, name), lines.join("\n") + "\n");
}
