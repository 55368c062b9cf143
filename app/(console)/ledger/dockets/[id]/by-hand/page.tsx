import type { Metadata } from "next";
import { HandWorkScreen } from "@/ui/ledger/HandWorkScreen";

export const metadata: Metadata = { title: "To be done by hand" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <HandWorkScreen id={(await params).id} />;
}
