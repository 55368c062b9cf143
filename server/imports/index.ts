/** The door of this room: what other rooms may ask of it. */
export { clearReports, type Importing, ImportsAtWork } from "./atWork";
export { importReport } from "./byCommand";
export { settleRuns } from "./runs";
