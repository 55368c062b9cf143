import type { Metadata } from "next";
import { CameInScreen } from "@/ui/intake/CameInScreen";

export const metadata: Metadata = { title: "What came in" };

export default function Page() {
  return <CameInScreen />;
}
