import type { Metadata } from "next";
import { PublicListScreen } from "@/ui/register/PublicListScreen";

export const metadata: Metadata = { title: "Public list" };

export default function Page() {
  return <PublicListScreen />;
}
