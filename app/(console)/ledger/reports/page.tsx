import type { Metadata } from "next";
import { ReportsScreen } from "@/ui/reports/ReportsScreen";

export const metadata: Metadata = { title: "Reports" };

export default function Page() {
  return <ReportsScreen />;
}
