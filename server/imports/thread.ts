import type { MessagePort } from "node:worker_threads";
import { Unreadable } from "@/core/imports/file";
import type { Db } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { serveAsked, type Step } from "../platform/thread";
import { type Checked, checkReport, type ReportGiven, type Unchanged } from "./check";
import { lookAt, type ReportLook } from "./look";
import type { FileReading } from "./rows";
import { type Taken, takeReport } from "./take";

/** What a thread of imports is asked: one thing at a time. */
export type ImportTask =
  { task: "look"; path: string; said: Partial<FileReading> } | { task: "check"; given: ReportGiven } | { task: "take" };

export type ImportAnswer = {
  look: ReportLook;
  check: Shown | Unchanged;
  take: Taken;
};

/** Of a report that was checked: what somebody is shown, and what is noted of it. */
type Shown = Pick<Checked, "outlook" | "given" | "fileDigest" | "lastFact">;

/** Does what it is asked. The report that was checked stays here until it is imported, or the thread ends. */
export function serveImports(db: Db, port: MessagePort) {
  let checked: Checked | undefined;
  const perform = async (asked: ImportTask, tell: (step: Step) => void, signal: AbortSignal) => {
    if (asked.task === "look") return lookAt(asked.path, asked.said);
    if (asked.task === "take") return takeReport(db, checked!, tell, signal);
    checked = undefined;
    const found = await checkReport(db, asked.given, tell, signal);
    if ("unchangedSince" in found) return found;
    checked = found;
    const { outlook, given, fileDigest, lastFact } = found;
    return { outlook, given, fileDigest, lastFact };
  };
  serveAsked(port, (asked: ImportTask, tell, signal): Promise<ImportAnswer[keyof ImportAnswer]> =>
    perform(asked, tell, signal).catch(refused),
  );
}

function refused(error: Error): never {
  throw error instanceof Unreadable ? new Problem("bad", error.message) : error;
}
