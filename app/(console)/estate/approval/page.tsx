import type { Metadata } from "next";
import { ApprovalPart } from "@/ui/estate/ApprovalPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Approval" };

export default function Page() {
  return (
    <PartScreen forAdministrators>
      <ApprovalPart />
    </PartScreen>
  );
}
