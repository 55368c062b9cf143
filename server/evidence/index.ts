/** The door of this room: what other rooms may ask of it. */
export { witnessLines } from "./deskLines";
export { resealPackKeys } from "./pack/packKeys";
export { type Packing, PacksAtWork } from "./pack/packsAtWork";
export { sendDueReports } from "./report/schedules";
export { sendToWitnesses } from "./witnessing";
