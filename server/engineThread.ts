import { parentPort, workerData } from "node:worker_threads";
import { decidedIn } from "./decided";
import { EngineThread } from "./engine/thread";
import { openDatabase } from "./platform/db/open";

/** What is run as the engine's thread. */
const path = workerData.databasePath as string;
const db = await openDatabase(path);
await new EngineThread(db, path, decidedIn(db)).serve(parentPort!);
