import type { ReportAsked } from "@/contract/reports";
import type { Report } from "@/core/evidence/report";
import type { Asking } from "../../engine/client";
import { houseName } from "../../records/homeDomains";
import { lastCheckpoint } from "../../records/ledger/checkpoints";
import { controlsReport } from "./controls";
import { openReport } from "./open";
import { reachReport } from "./reach";
import { roundReport } from "./round";
import { stateReport } from "./state";
import { takenReport } from "./taken";

/** A report, with its tables whole. @throws {Problem} where what is asked for can't be had */
export async function reportFor(app: Asking, asked: ReportAsked): Promise<Report> {
  const report = await reportOf(app, asked);
  const house = await houseName(app.db);
  return house === "" ? report : { ...report, words: `${house}. ${report.words}` };
}

function reportOf(app: Asking, asked: ReportAsked): Promise<Report> {
  switch (asked.kind) {
    case "state":
      return stateReport(app, asked);
    case "open":
      return openReport(app, asked);
    case "reach":
      return reachReport(app, asked);
    case "round":
      return roundReport(app, asked);
    case "taken":
      return takenReport(app, asked);
    case "controls":
      return controlsReport(app, asked);
  }
}

/** A report as a PDF, the newest checkpoint in its foot. */
export async function reportFile(app: Asking, report: Report): Promise<Uint8Array> {
  // Loaded when needed: what draws is large, and few need it.
  const { drawn } = await import("./draw");
  return drawn(report, (await lastCheckpoint(app.db))?.note, app.clock.seconds());
}
