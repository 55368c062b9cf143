import type { EstateRecord } from "./records";

/** What is wrong with one line of an estate file, and where. Lines count from 1. */
export interface Problem {
  line: number;
  message: string;
}

/** A record and its line. */
export interface Placed {
  line: number;
  record: EstateRecord;
}
