import type { Metadata } from "next";
import { RequestScreen } from "@/ui/sharing/RequestScreen";

export const metadata: Metadata = { title: "A request to share" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <RequestScreen id={(await params).id} />;
}
