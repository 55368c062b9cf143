import type { Metadata } from "next";
import { InsidersScreen } from "@/ui/directory/InsidersScreen";

export const metadata: Metadata = { title: "Insiders" };

export default function Page() {
  return <InsidersScreen />;
}
