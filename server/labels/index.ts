/** The door of this room: what other rooms may ask of it. */
export { labelRulesAt } from "./labelRules";
