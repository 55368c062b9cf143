import { createHash } from "node:crypto";
import { readFile, rm } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { parentPort, workerData } from "node:worker_threads";
import { decidedIn } from "./decided";
import type { ThreadOf } from "./engine/client";
import { Past, Present, serve } from "./engine/thread";
import { openDatabase } from "./platform/db/open";

/** What is run as a thread of the engine. */
const { databasePath: path, of } = workerData as ThreadOf;
const db = await openDatabase(path);
// A copy of the register that was kept beside the database once: nothing reads it any more.
for (const ending of ["", "-wal", "-shm"]) await rm(`${path}.reading${ending}`, { force: true });
const build = createHash("sha256")
  .update(await readFile(fileURLToPath(import.meta.url)))
  .digest("hex");
const [columns, days] = [
  { path: `${path}.columns`, build },
  { path: `${path}.days`, build },
];
const decided = decidedIn(db);
const answerer = of === "present" ? new Present(db, columns, decided) : new Past(db, { columns, days }, decided);
await serve(answerer, parentPort!);
