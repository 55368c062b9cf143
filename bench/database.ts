import Database from "better-sqlite3";
import { recordKey } from "../core/estate/records";
import { openDatabase } from "../server/platform/db/open";
import { generateEstate } from "./generate";

/** A database of ours with the facts of a generated estate, as readings would have left it. */
export async function writeDatabase(path: string, size: number, shares?: number, firms?: number) {
  await (await openDatabase(path)).destroy();
  const db = new Database(path);
  const add = db.prepare("insert or ignore into fact (source, type, key, body) values ('bench', ?, ?, ?)");
  db.transaction(() => {
    for (const record of generateEstate(size, 1, shares, firms))
      add.run(record.type, recordKey(record), JSON.stringify(record));
  })();
  db.close();
}
