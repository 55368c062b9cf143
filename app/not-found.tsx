import type { Metadata } from "next";
import { NoScreen } from "@/ui/frame/NoScreen";

export const metadata: Metadata = { title: "No such page" };

export default function Page() {
  return <NoScreen />;
}
