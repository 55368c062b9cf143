import { parentPort, workerData } from "node:worker_threads";
import { serveLists } from "./directory/thread";
import { Clock } from "./platform/clock";
import { openDatabase } from "./platform/db/open";

/** What is run as a thread that compares and reads lists of people. */
const { databasePath, now } = workerData as { databasePath: string; now: Date | undefined };
serveLists(await openDatabase(databasePath, new Clock(now)), parentPort!);
