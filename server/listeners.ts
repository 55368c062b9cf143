import { tickOff } from "./dockets/byHand";
import { sentAmong } from "./dockets/doers";
import type { Listeners } from "./stores/listeners";
import { raise } from "./trail/raising";

/** What the rooms above do with what stores and files tell. */
export const listeners: Listeners = { events: raise, ours: sentAmong, imported: tickOff };
