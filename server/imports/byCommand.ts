import { Unreadable } from "@/core/imports/file";
import { Problem } from "../platform/problem";
import type { Reading } from "../stores/listeners";
import { checkSaid, type Said } from "./brake";
import { checkReport, type ReportOutlook, type Unchanged } from "./check";
import { savedMapping } from "./mappings";
import { beginRun, duringRun, endRun } from "./runs";
import { type Taken, takeReport } from "./take";

export interface ReportImported extends Taken {
  outlook: ReportOutlook;
  ticked: number;
}

/**
 * Imports a report by a mapping that was kept, where nobody looks.
 * @param given `as` whose word it is; null for whose the mapping’s reports are
 * @throws {Problem} where it can't be read, or somebody has to say first that it is right
 */
export async function importReport(
  app: Reading,
  given: { path: string; file: string; as: string | null; mapping: string },
  said: Said,
  actor: string,
): Promise<ReportImported | Unchanged> {
  const { source, title, mapping } = await savedMapping(app.db, given.mapping);
  const as = given.as ?? source;
  const report = { path: given.path, file: given.file, source: as, title: as === source ? title : as, mapping };
  try {
    const checked = await checkReport(app.db, report);
    if ("unchangedSince" in checked) return checked;
    checkSaid(checked.outlook, said);
    const run = await beginRun(app.db, checked, given.mapping, actor);
    const taken = await duringRun(app, run, () => takeReport(app.db, checked));
    return { ...taken, outlook: checked.outlook, ticked: await endRun(app, run, taken) };
  } catch (error) {
    if (error instanceof Unreadable) throw new Problem("bad", `${given.file}: ${error.message}`);
    throw error;
  }
}
