import { EventEmitter } from "node:events";
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

/** What is needed to carry a docket out. */
export interface Carrying extends Asking {
  readonly carrying: Carriage;
}
