import type { MessagePort } from "node:worker_threads";
import { Unreadable } from "@/core/imports/file";
import type { Db } from "../platform/db/open";
import { Problem, type ProblemKind } from "../platform/problem";
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

export type ImportReply =
  | { step: { words: string; done: number } }
  | { answer: ImportAnswer[keyof ImportAnswer] }
  | { problem: { kind: ProblemKind; message: string } }
  | { stopped: true };

/** Does what it is asked. The report that was checked stays here until it is imported, or the thread ends. */
export function serveImports(db: Db, port: MessagePort) {
  let checked: Checked | undefined;
  let ending = new AbortController();
  const tell = (step: { words: string; done: number }) => port.postMessage({ step } satisfies ImportReply);
  const perform = async (asked: ImportTask): Promise<ImportAnswer[keyof ImportAnswer]> => {
    if (asked.task === "look") return lookAt(asked.path, asked.said);
    if (asked.task === "take") return takeReport(db, checked!, tell, ending.signal);
    checked = undefined;
    const found = await checkReport(db, asked.given, tell, ending.signal);
    if ("unchangedSince" in found) return found;
    checked = found;
    const { outlook, given, fileDigest, lastFact } = found;
    return { outlook, given, fileDigest, lastFact };
  };
  port.on("message", (asked: ImportTask | "stop") => {
    if (asked === "stop") return ending.abort();
    ending = new AbortController();
    perform(asked).then(
      (answer) => port.postMessage({ answer } satisfies ImportReply),
      (error: Error) => port.postMessage(replyTo(error)),
    );
  });
}

function replyTo(error: Error): ImportReply {
  if (error.name === "AbortError") return { stopped: true };
  if (error instanceof Unreadable) return { problem: { kind: "bad", message: error.message } };
  if (error instanceof Problem) return { problem: { kind: error.kind, message: error.message } };
  throw error;
}
