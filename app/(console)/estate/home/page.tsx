import type { Metadata } from "next";
import { HomePart } from "@/ui/estate/HomePart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Organisation" };

export default function Page() {
  return (
    <PartScreen forAdministrators>
      <HomePart />
    </PartScreen>
  );
}
