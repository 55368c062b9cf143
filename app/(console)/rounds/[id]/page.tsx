import type { Metadata } from "next";
import { RoundScreen } from "@/ui/rounds/RoundScreen";

export const metadata: Metadata = { title: "Round" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <RoundScreen id={(await params).id} />;
}
