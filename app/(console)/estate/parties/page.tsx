import type { Metadata } from "next";
import { PartiesScreen } from "@/ui/outsiders/PartiesScreen";

export const metadata: Metadata = { title: "Parties" };

export default function Page() {
  return <PartiesScreen />;
}
