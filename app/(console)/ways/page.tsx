import type { Metadata } from "next";
import { WaysInScreen } from "@/ui/waysIn/WaysInScreen";

export const metadata: Metadata = { title: "Ways in" };

export default function Page() {
  return <WaysInScreen />;
}
