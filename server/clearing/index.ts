/** The door of this room: what other rooms may ask of it. */
export { clearMonthly } from "./clearing";
export { clearingLines } from "./deskLines";
