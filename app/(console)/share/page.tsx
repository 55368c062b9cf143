import type { Metadata } from "next";
import { MakeShareScreen } from "@/ui/sharing/MakeShareScreen";

export const metadata: Metadata = { title: "Make a share" };

export default function Page() {
  return <MakeShareScreen />;
}
