/** The door of this room: what other rooms may ask of it. */
export { engagementContent } from "./asking";
export { engagementLines } from "./deskLines";
export { engagementsDue } from "./due";
export { ownEngagements } from "./engagements";
