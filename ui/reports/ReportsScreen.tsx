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
      about="Written for somebody who wasn’t there. Each opens as a page, from which it can be saved as a PDF, and each of its tables as CSV. Days are of UTC."
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
