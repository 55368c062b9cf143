import type { MessagePort } from "node:worker_threads";
import type { Db } from "../platform/db/open";
import { serveAsked } from "../platform/thread";
import { type ListGiven, type ListOutlook, outlookOf, type Prepared, prepared } from "./lists";
import { type ListSaid, takeList } from "./take";

/** What a thread of lists is asked. */
export type ListTask =
  { task: "look"; given: ListGiven } | { task: "take"; given: ListGiven; said: ListSaid; actor: string };

/** Does what it is asked. Keeps the list that was shown last, which is usually the next to be read. */
export function serveLists(db: Db, port: MessagePort) {
  let shown: Prepared | undefined;
  serveAsked(port, async (asked: ListTask, tell, signal): Promise<ListOutlook> => {
    const { given } = asked;
    if (asked.task === "take") {
      const known = isSame(shown?.given, given) ? shown : undefined;
      return takeList(db, given, asked.said, asked.actor, { shown: known, tell, signal });
    }
    shown = undefined;
    shown = await prepared(db, given, tell);
    return outlookOf(db, shown);
  });
}

function isSame(a: ListGiven | undefined, b: ListGiven): boolean {
  return a?.directory === b.directory && a.kind === b.kind && a.file === b.file && a.text === b.text;
}
