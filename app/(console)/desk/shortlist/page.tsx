import type { Metadata } from "next";
import { ShortlistScreen } from "@/ui/shortlist/ShortlistScreen";

export const metadata: Metadata = { title: "Where to start" };

export default function Page() {
  return <ShortlistScreen />;
}
