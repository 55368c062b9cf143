/** The door of this room: what other rooms may ask of it. */
export { actingStopped } from "./acting";
export { countOverdue } from "./demands";
export { waiversEnding, waiversOn } from "./waivers";
