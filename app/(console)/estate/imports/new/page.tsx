import type { Metadata } from "next";
import { ImportScreen } from "@/ui/imports/ImportScreen";

export const metadata: Metadata = { title: "Import a report" };

export default function Page() {
  return <ImportScreen />;
}
