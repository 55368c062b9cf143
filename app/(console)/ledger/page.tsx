import type { Metadata } from "next";
import { LedgerScreen } from "@/ui/ledger/LedgerScreen";

export const metadata: Metadata = { title: "Ledger" };

export default function Page() {
  return <LedgerScreen />;
}
