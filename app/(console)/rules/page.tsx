import type { Metadata } from "next";
import { RulesScreen } from "@/ui/rules/RulesScreen";

export const metadata: Metadata = { title: "Rules" };

export default function Page() {
  return <RulesScreen />;
}
