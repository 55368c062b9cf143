import type { Metadata } from "next";
import { DocketScreen } from "@/ui/ledger/DocketScreen";

export const metadata: Metadata = { title: "Docket" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <DocketScreen id={(await params).id} />;
}
