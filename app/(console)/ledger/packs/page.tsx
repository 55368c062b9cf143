import type { Metadata } from "next";
import { PacksScreen } from "@/ui/ledger/PacksScreen";

export const metadata: Metadata = { title: "Evidence packs" };

export default function Page() {
  return <PacksScreen />;
}
