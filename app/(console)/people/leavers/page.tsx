import type { Metadata } from "next";
import { LeaversScreen } from "@/ui/leavers/LeaversScreen";

export const metadata: Metadata = { title: "Leavers" };

export default function Page() {
  return <LeaversScreen />;
}
