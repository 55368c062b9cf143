import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { REPORT_KINDS } from "@/core/evidence/report";
import { ReportScreen } from "@/ui/reports/ReportScreen";

export const metadata: Metadata = { title: "Report" };

export default async function Page({ params }: { params: Promise<{ kind: string }> }) {
  const { kind } = await params;
  const known = REPORT_KINDS.find((one) => one === kind);
  return known ? <ReportScreen kind={known} /> : notFound();
}
