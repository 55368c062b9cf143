import type { Metadata } from "next";
import { DataPart } from "@/ui/estate/DataPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Data" };

export default function Page() {
  return (
    <PartScreen forAdministrators>
      <DataPart />
    </PartScreen>
  );
}
