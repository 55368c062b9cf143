import type { Metadata } from "next";
import { MakeEngagementScreen } from "@/ui/engagements/MakeEngagementScreen";

export const metadata: Metadata = { title: "Make a project" };

export default function Page() {
  return <MakeEngagementScreen />;
}
