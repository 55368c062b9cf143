import type { Metadata } from "next";
import { WitnessesScreen } from "@/ui/ledger/WitnessesScreen";

export const metadata: Metadata = { title: "Witnesses" };

export default function Page() {
  return <WitnessesScreen />;
}
