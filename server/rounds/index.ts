/** The door of this room: what other rooms may ask of it. */
export { headsOfDepartments } from "./deciding";
export { decisionPieces, docketsOfRound, roundsBetween } from "./between";
export { roundsNow } from "./standing";
export { decidersOf, roundView } from "./view";
