import type { Metadata } from "next";
import { LeaverScreen } from "@/ui/leavers/LeaverScreen";

export const metadata: Metadata = { title: "Leaver" };

export default function Page() {
  return <LeaverScreen />;
}
