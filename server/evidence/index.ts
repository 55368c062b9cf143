/** The door of this room: what other rooms may ask of it. */
export { witnessLines } from "./deskLines";
export { sendToWitnesses } from "./witnessing";
