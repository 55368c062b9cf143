import type { Metadata } from "next";
import { DeskScreen } from "@/ui/desk/DeskScreen";

export const metadata: Metadata = { title: "Desk" };

export default function Page() {
  return <DeskScreen />;
}
