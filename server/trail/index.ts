/** The door of this room: what other rooms may ask of it. */
export { alerts } from "./alerts";
export { EVENT_HEADS, eventCells, eventPieces } from "./exports";
export { raiseOnce } from "./raising";
export { watchOverRules } from "./shipped";
export { turnWatches, watchesOn } from "./watches";
