/** The door of this room: what other rooms may ask of it. */
export { ageDirectories } from "./leftAfter";
export { type Listing, ListsAtWork } from "./atWork";
