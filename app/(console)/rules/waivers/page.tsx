import type { Metadata } from "next";
import { WaiversScreen } from "@/ui/rules/WaiversScreen";

export const metadata: Metadata = { title: "Waivers" };

export default function Page() {
  return <WaiversScreen />;
}
