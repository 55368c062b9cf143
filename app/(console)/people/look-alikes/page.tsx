import type { Metadata } from "next";
import { LookAlikesScreen } from "@/ui/outsiders/LookAlikesScreen";

export const metadata: Metadata = { title: "Look-alikes" };

export default function Page() {
  return <LookAlikesScreen />;
}
