/** The door of this room: what other rooms may ask of it. */
export { headsOfDepartments } from "./deciding";
export { roundsNow } from "./standing";
