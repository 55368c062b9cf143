import type { Metadata } from "next";
import { RequestsScreen } from "@/ui/sharing/RequestsScreen";

export const metadata: Metadata = { title: "Requests to share" };

export default function Page() {
  return <RequestsScreen />;
}
