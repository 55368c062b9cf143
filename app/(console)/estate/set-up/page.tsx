import type { Metadata } from "next";
import { SetUpScreen } from "@/ui/estate/SetUpScreen";

export const metadata: Metadata = { title: "Set up" };

export default function Page() {
  return <SetUpScreen />;
}
