import type { Act } from "./candidate";
import type { FilesShut } from "./effect";
import type { ActGroup } from "./groups";
import type { RegisterRow } from "../register/columns";

/** One point of the frontier, as it is drawn. */
export interface CurvePoint {
  changes: number;
  price: number;
  /** How much stays open. */
  left: number;
  /** What would stay open if the riskiest shares were ended at the same price. */
  byRisk: number;
}

/** The frontier of a scope. */
export interface Curve {
  /** What the scope is called. */
  title: string;
  /** How much is open, and in how many files. */
  mass: number;
  files: number;
  points: CurvePoint[];
  /** Which of the points is where it bends. */
  bend: number;
}

/** One change, as it is shown. */
export interface NamedAct {
  shareId: string;
  itemName: string;
  act: Act;
}

/** What one point of the frontier is made of. */
export interface PointView extends CurvePoint {
  groups: ActGroup[];
  files: FilesShut;
  /** How many of the shares were used lately, and how many belong to engagements that run. */
  used: number;
  running: number;
  /** The next point, and what its costliest change gains. */
  next: { changes: number; price: number; left: number; first: NamedAct } | null;
  /** Identifies exactly these changes. */
  digest: string;
}

/** One change with what it takes and does. */
export interface LineView {
  row: RegisterRow;
  act: Act;
  price: number;
  /** How many files it makes less open, and by which other changes together: the first of them, and how many. */
  files: number;
  others: { shareId: string; words: string }[];
  othersCount: number;
}

export interface LinesPage {
  count: number;
  lines: LineView[];
}

/** The changes of a point, ready to be staged. */
export interface ActsOfPoint {
  acts: { share: string; act: Act }[];
  digest: string;
}
