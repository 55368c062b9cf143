import type { Metadata } from "next";
import { TrailScreen } from "@/ui/trail/TrailScreen";

export const metadata: Metadata = { title: "Trail" };

export default function Page() {
  return <TrailScreen />;
}
