import { EventEmitter } from "node:events";

const shared = globalThis as { latchProgress?: EventEmitter };
/** Emits `docketId` whenever something in a docket has moved. */
export const progressEvents = (shared.latchProgress ??= new EventEmitter().setMaxListeners(0));
