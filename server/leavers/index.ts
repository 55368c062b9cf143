/** The door of this room: what other rooms may ask of it. */
export { leaverLines } from "./deskLines";
export { noteLeavers } from "./settling";
