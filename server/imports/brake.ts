import { countWords } from "@/core/text/words";
import { Problem } from "../platform/problem";
import type { ReportOutlook } from "./check";

/** An import that ends more than a tenth of a store’s shares, and at least this many, waits for confirmation. */
const [MOST_SHARE, LEAST_MANY] = [0.1, 20];

export function isHeld({ endedCount, held }: Pick<ReportOutlook, "endedCount" | "held">): boolean {
  return endedCount >= LEAST_MANY && endedCount > held * MOST_SHARE;
}

/** What somebody has said to an import that was shown to them. */
export interface Said {
  /** Rows that can’t be read are skipped. */
  skips: boolean;
  /** How many shares may end; null where nobody has said so. */
  ended: number | null;
}

/** @throws {Problem} where nobody has said what has to be said before a report is imported */
export function checkSaid({ refused, endedCount, held, problems }: ReportOutlook, { skips, ended }: Said): void {
  if (refused > 0 && !skips)
    throw new Problem(
      "bad",
      `Nothing was imported: ${countWords(refused, "row")} can’t be read. The first is row ${problems[0].line}: ${problems[0].message}.`,
    );
  if (isHeld({ endedCount, held }) && ended !== endedCount)
    throw new Problem(
      "conflict",
      `Nothing was imported: ${endedCount} of ${held} shares would end, since the report no longer names them. ` +
        "Check that the report is complete. If it is, confirm with their number.",
    );
}
