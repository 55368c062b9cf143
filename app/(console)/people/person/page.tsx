import type { Metadata } from "next";
import { PersonScreen } from "@/ui/directory/PersonScreen";

export const metadata: Metadata = { title: "Person" };

export default function Page() {
  return <PersonScreen />;
}
