import type { Metadata } from "next";
import { MakeRoundScreen } from "@/ui/rounds/MakeRoundScreen";

export const metadata: Metadata = { title: "New round" };

export default function Page() {
  return <MakeRoundScreen />;
}
