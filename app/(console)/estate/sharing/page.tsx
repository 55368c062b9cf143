import type { Metadata } from "next";
import { PartScreen } from "@/ui/estate/PartScreen";
import { SharingPart } from "@/ui/sharing/SharingPart";

export const metadata: Metadata = { title: "Sharing" };

export default function Page() {
  return (
    <PartScreen>
      <SharingPart />
    </PartScreen>
  );
}
