import type { Seconds } from "../time/instant";
import type { Watch } from "./watch";

export interface SavedWatch {
  id: string;
  name: string;
  watch: Watch;
  isOn: boolean;
  /** Events before it raise nothing. */
  since: Seconds;
  madeBy: string;
}

/** A watch in the list of them: how many of its alerts are open, how many messages it holds back or had to give up. */
export interface WatchLine extends SavedWatch {
  open: number;
  held: number;
  aside: number;
}
