import { parentPort, workerData } from "node:worker_threads";
import { serveImports } from "./imports/thread";
import { Clock } from "./platform/clock";
import { openDatabase } from "./platform/db/open";

/** What is run as a thread that reads reports. */
const { databasePath, now } = workerData as { databasePath: string; now: Date | undefined };
serveImports(await openDatabase(databasePath, new Clock(now)), parentPort!);
