import type { Metadata } from "next";
import { EngagementScreen } from "@/ui/engagements/EngagementScreen";

export const metadata: Metadata = { title: "Project" };

export default function Page() {
  return <EngagementScreen />;
}
