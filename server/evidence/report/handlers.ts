import type { reportsOperations } from "@/contract/reports";
import { type Report, shortened } from "@/core/evidence/report";
import { safeCell } from "@/core/register/cells";
import { csvLines } from "@/core/text/csv";
import type { Asking } from "../../engine/client";
import { Problem } from "../../platform/problem";
import type { Handlers } from "../../platform/serving";
import { reportFile, reportFor } from "./reports";
import { addSchedule, removeSchedule, schedules } from "./schedules";

/** For longer tables, the page and the PDF show the beginning; the CSV has everything. */
const MOST_ROWS = 500;

export const reportsHandlers: Handlers<Asking, typeof reportsOperations> = {
  report: async (app, { query }) => shortened(await reportFor(app, query), MOST_ROWS),
  async reportPdf(app, { query }) {
    const body = await reportFile(app, shortened(await reportFor(app, query), MOST_ROWS));
    return { type: "application/pdf", name: `${query.kind}.pdf`, body: new Blob([body as BlobPart]).stream() };
  },
  async reportTable(app, { query: { asked, section } }) {
    return {
      type: "text/csv; charset=utf-8",
      name: `${asked.kind}-${section + 1}.csv`,
      body: csvOf(await reportFor(app, asked), section),
    };
  },
  schedules: ({ db }) => schedules(db),
  async addSchedule(app, { actor, body }) {
    await addSchedule(app, body, { email: actor.email, zone: actor.dates?.zone ?? "UTC" });
    return schedules(app.db);
  },
  async removeSchedule({ db }, { actor, body }) {
    await removeSchedule(db, body.id, actor.email);
    return schedules(db);
  },
};

/** Begins with a byte-order mark, which says that it is UTF-8. */
function csvOf({ sections }: Report, section: number): string {
  const table = sections[section]?.table;
  if (!table) throw new Problem("unknown", `section: there is no table in section ${section}.`);
  return `\ufeff${csvLines([table.heads, ...table.rows.map((row) => row.map(safeCell))])}`;
}
