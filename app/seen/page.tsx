import type { Metadata } from "next";
import { SeenScreen } from "@/ui/seen/SeenScreen";

export const metadata: Metadata = { title: "Mark an alert as seen" };

export default function Page() {
  return <SeenScreen />;
}
