import type { Metadata } from "next";
import { PassphrasesScreen } from "@/ui/ledger/PassphrasesScreen";

export const metadata: Metadata = { title: "Passphrases" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <PassphrasesScreen id={(await params).id} />;
}
