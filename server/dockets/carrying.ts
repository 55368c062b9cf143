import { EventEmitter } from "node:events";
import type { MakingChange } from "@/core/changes/change";
import type { ShareRecord } from "@/core/estate/records";
import type { Tx } from "../platform/db/open";
import type { Asking } from "../engine/client";
import type { Pace } from "./pace";

/** A docket that is being carried out in this process. */
export interface Running {
  halt: AbortController;
  finished: Promise<void>;
}

/** What one application is carrying out at the moment. */
export class Carriage {
  readonly running = new Map<string, Running>();
  /** By store, since all dockets together keep to one pace for a store. */
  readonly paces = new Map<string, Pace>();
  /** Emits a docket's id whenever something in it has changed. */
  readonly events = new EventEmitter().setMaxListeners(0);
}

/** A share that a change of a docket made. */
export interface Made {
  docketId: string;
  change: MakingChange;
  made: ShareRecord;
}

/** What is needed to carry out a docket. */
export interface Carrying extends Asking {
  readonly carrying: Carriage;
  /** What other rooms do about a new share, in the transaction in which it becomes known. */
  readonly onMade: (tx: Tx, made: Made) => Promise<void>;
  /** What they do when a docket has been carried out. */
  readonly onFinished: () => Promise<void>;
}
