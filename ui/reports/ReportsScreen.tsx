"use client";

import { REPORT_KINDS } from "@/core/evidence/report";
import { UnderLedger } from "../ledger/UnderLedger";
import { ReportForm } from "./ReportForm";
import { Schedules } from "./Schedules";

/** Reports for whoever was not there: each is asked for here, and read as a page or as a PDF. */
export function ReportsScreen() {
  return (
    <UnderLedger
      title="Reports"
      about="Written for somebody who wasn’t involved. Each opens as a page that you can save as a PDF, with each table as CSV. Days are in UTC."
      error={null}
    >
      <div className="max-w-5xl">
        {REPORT_KINDS.map((kind) => (
          <ReportForm key={kind} kind={kind} />
        ))}
        <Schedules />
      </div>
    </UnderLedger>
  );
}
