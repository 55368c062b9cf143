import type { Metadata } from "next";
import { AlertsScreen } from "@/ui/trail/AlertsScreen";

export const metadata: Metadata = { title: "Alerts" };

export default function Page() {
  return <AlertsScreen />;
}
