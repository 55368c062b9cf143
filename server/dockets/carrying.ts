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
  /** By store: all dockets ask one store at one pace. */
  readonly paces = new Map<string, Pace>();
  /** Emits a docket's id whenever something in it has moved. */
  readonly events = new EventEmitter().setMaxListeners(0);
}

/** A share that a change of a docket made. */
export interface Made {
  docketId: string;
  change: MakingChange;
  made: ShareRecord;
}

/** What is needed to carry a docket out. */
export interface Carrying extends Asking {
  readonly carrying: Carriage;
  /** What rooms above do with a share that was made, in the transaction in which it becomes known. */
  readonly onMade: (tx: Tx, made: Made) => Promise<void>;
  /** What they do once a docket has been carried out. */
  readonly onFinished: () => Promise<void>;
}
