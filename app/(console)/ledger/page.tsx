import type { Metadata } from "next";
import { database } from "@/server/db/open";
import { appliedDockets } from "@/server/dockets/receipts";
import { LedgerScreen } from "@/ui/ledger/LedgerScreen";

export const metadata: Metadata = { title: "Ledger" };

export default async function Page() {
  return <LedgerScreen dockets={await appliedDockets(await database())} />;
}
