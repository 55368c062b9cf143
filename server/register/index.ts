/** The door of this room: what other rooms may ask of it. */
export { rowPieces } from "./exportPieces";
export { notesOn } from "./remarks";
