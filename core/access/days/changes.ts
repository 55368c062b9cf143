import type { RecordType } from "../../estate/records";
import type { Seconds } from "../../time/instant";
import type { Held } from "../history";

/** What has changed over a period up to now. Everything else held throughout as it does now. */
export interface Changes {
  /** What held for part of the period and holds no longer. */
  ended: readonly Held[];
  /**
   * Of what holds now: since when, where that is within it. Of items and shares the estate knows that itself. A membership
   * that two sources tell of, by the first of them.
   */
  begun: readonly Beginning[];
}

/** Since when something has held as it does now. */
export interface Beginning {
  type: RecordType;
  /** @see recordKey */
  key: string;
  from: Seconds;
}
