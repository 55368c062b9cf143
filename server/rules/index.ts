/** The door of this room: what other rooms may ask of it. */
export { enforcingStopped } from "./enforcing";
export { countOverdue } from "./demands";
export { waiversEnding, waiversOn } from "./waivers";
