/** The door of this room: what other rooms may ask of it. */
export { enforcingStopped } from "./enforcing";
export { ruleSettings } from "./settings";
export { countOverdue } from "./demands";
export {
  endWaiversWithin,
  keepWaiver as waiveWithin,
  waiversBetween,
  waiversEnding,
  waiversGivenBy,
  waiversOn,
} from "./waivers";
