import type { Metadata } from "next";
import { MakeEngagementScreen } from "@/ui/engagements/MakeEngagementScreen";

export const metadata: Metadata = { title: "New project" };

export default function Page() {
  return <MakeEngagementScreen />;
}
