import type { Metadata } from "next";
import { TraceScreen } from "@/ui/trace/TraceScreen";

export const metadata: Metadata = { title: "Trace" };

export default function Page() {
  return <TraceScreen />;
}
