import SQLite from "better-sqlite3";
import { parentPort, workerData } from "node:worker_threads";
import type { Held } from "@/core/ledger/check";
import { preparingOnce } from "./platform/db/statements";
import { type LedgerPart, verifyPart } from "./records/ledger/verify";

/** What is run as a thread that verifies a part of the ledger. */
const { path, part, held } = workerData as { path: string; part: LedgerPart; held: Held[] };
const connection = new SQLite(path, { readonly: true });
parentPort!.postMessage(verifyPart(preparingOnce(connection), part, held));
connection.close();
