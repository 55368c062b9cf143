import type { Metadata } from "next";
import { HelpScreen } from "@/ui/help/HelpScreen";

export const metadata: Metadata = { title: "Help" };

export default function Page() {
  return <HelpScreen />;
}
