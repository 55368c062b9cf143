import type { Metadata } from "next";
import { NoticesScreen } from "@/ui/ledger/NoticesScreen";

export const metadata: Metadata = { title: "Tell owners and recipients" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <NoticesScreen id={(await params).id} />;
}
