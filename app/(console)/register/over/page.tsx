import type { Metadata } from "next";
import { OverScreen } from "@/ui/clearing/OverScreen";

export const metadata: Metadata = { title: "Links that are over" };

export default function Page() {
  return <OverScreen />;
}
