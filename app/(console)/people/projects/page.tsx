import type { Metadata } from "next";
import { EngagementsScreen } from "@/ui/engagements/EngagementsScreen";

export const metadata: Metadata = { title: "Projects" };

export default function Page() {
  return <EngagementsScreen />;
}
