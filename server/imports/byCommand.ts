import { Problem } from "../platform/problem";
import type { Reading } from "../stores/listeners";
import { checkSaid, type Said } from "./brake";
import { ImportThread } from "./atWork";
import type { ReportOutlook, Unchanged } from "./check";
import { savedMapping } from "./mappings";
import { beginRun, duringRun, endRun } from "./runs";
import type { Taken } from "./take";

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
  const thread = new ImportThread(app);
  try {
    const checked = (await thread.ask({ task: "check", given: report }).catch((error) => refused(given.file, error)))!;
    if ("unchangedSince" in checked) return checked;
    checkSaid(checked.outlook, said);
    const run = await beginRun(app.db, checked, given.mapping, actor);
    // Nobody stops it but by ending the command.
    const taken = (await duringRun(app, run, () => thread.ask({ task: "take" })))!;
    return { ...taken, outlook: checked.outlook, ticked: await endRun(app, run, taken) };
  } finally {
    await thread.end();
  }
}

function refused(file: string, error: Error): never {
  throw error instanceof Problem && error.kind === "bad" ? new Problem("bad", `${file}: ${error.message}`) : error;
}
