import type { Metadata } from "next";
import { WatchesScreen } from "@/ui/trail/WatchesScreen";

export const metadata: Metadata = { title: "Watches" };

export default function Page() {
  return <WatchesScreen />;
}
