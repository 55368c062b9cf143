import type { Metadata } from "next";
import { OrdersPart } from "@/ui/estate/OrdersPart";
import { PartScreen } from "@/ui/estate/PartScreen";

export const metadata: Metadata = { title: "Standing orders" };

export default function Page() {
  return (
    <PartScreen>
      <OrdersPart />
    </PartScreen>
  );
}
