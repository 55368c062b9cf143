import type { Metadata } from "next";
import { LabelsPart } from "@/ui/estate/LabelsPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Labels" };

export default function Page() {
  return (
    <PartScreen>
      <LabelsPart />
    </PartScreen>
  );
}
