/** The door of this room: what other rooms may ask of it. */
export { headsOfDepartments } from "./deciding";
export { decisionPieces, roundsBetween } from "./between";
export { roundsNow } from "./standing";
