import type { Metadata } from "next";
import { ChannelsPart } from "@/ui/estate/ChannelsPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Messages" };

export default function Page() {
  return (
    <PartScreen forAdministrators>
      <ChannelsPart />
    </PartScreen>
  );
}
