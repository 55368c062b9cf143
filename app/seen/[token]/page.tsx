import type { Metadata } from "next";
import { SeenScreen } from "@/ui/seen/SeenScreen";

export const metadata: Metadata = { title: "Mark an alert as seen" };

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  return <SeenScreen token={(await params).token} />;
}
