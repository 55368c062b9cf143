import { randomBytes, randomUUID } from "node:crypto";
import type { EstateRecord, EventRecord } from "../../core/estate/records";
import { nowText } from "../parts/clock";
import type { StoreDatabase } from "./database";

/** A record as it is after a change, or one that is no more. */
interface Changed {
  at: string;
  record: EstateRecord;
  gone: boolean;
}

export interface Answer {
  status: 200 | 404 | 409 | 422;
  body: { entries?: Changed[]; error?: string };
}

export function done(...entries: Changed[]): Answer {
  return { status: 200, body: { entries } };
}

export function refused(status: 404 | 409 | 422, error: string): Answer {
  return { status, body: { error } };
}

export function note(db: StoreDatabase, verb: string, about: Pick<EventRecord, "itemId" | "shareId" | "target">) {
  db.addEvent({
    type: "event",
    id: randomUUID(),
    at: nowText(),
    actorId: null,
    actorEmail: "tight-latch@wrenmoor.example",
    verb,
    ...about,
    ...(db.changing !== null && { detail: { change: db.changing } }),
  });
}

/** What a link has that is new, though it be like another. */
export function newLink() {
  return { id: randomUUID(), address: randomBytes(16).toString("hex"), createdAt: nowText() };
}
