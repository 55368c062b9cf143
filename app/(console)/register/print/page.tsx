import type { Metadata } from "next";
import { PrintScreen } from "@/ui/register/PrintScreen";

export const metadata: Metadata = { title: "Shares" };

export default function Page() {
  return <PrintScreen />;
}
