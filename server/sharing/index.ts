/** The door of this room: what other rooms may ask of it. */
export { makeDue, noteMade, settleRequests } from "./making";
export { sharingLines } from "./deskLines";
