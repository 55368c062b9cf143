import type { Metadata } from "next";
import { ImportsScreen } from "@/ui/imports/ImportsScreen";

export const metadata: Metadata = { title: "Imports" };

export default function Page() {
  return <ImportsScreen />;
}
