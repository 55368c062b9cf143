import type { Metadata } from "next";
import { StandInsPart } from "@/ui/estate/StandInsPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Deciders" };

export default function Page() {
  return (
    <PartScreen>
      <StandInsPart />
    </PartScreen>
  );
}
