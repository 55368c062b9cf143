import type { Metadata } from "next";
import { RoundsScreen } from "@/ui/rounds/RoundsScreen";

export const metadata: Metadata = { title: "Rounds" };

export default function Page() {
  return <RoundsScreen />;
}
