import type { Metadata } from "next";
import { LookScreen } from "@/ui/rounds/LookScreen";

export const metadata: Metadata = { title: "Second look" };

export default async function Page({ params }: { params: Promise<{ id: string; look: string }> }) {
  const { id, look } = await params;
  return <LookScreen round={id} look={look} />;
}
