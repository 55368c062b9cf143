import type { Metadata } from "next";
import { EstateScreen } from "@/ui/estate/EstateScreen";

export const metadata: Metadata = { title: "Estate" };

export default function Page() {
  return <EstateScreen />;
}
