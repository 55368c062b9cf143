import type { Metadata } from "next";
import { OrganisationsScreen } from "@/ui/outsiders/OrganisationsScreen";

export const metadata: Metadata = { title: "People outside" };

export default function Page() {
  return <OrganisationsScreen />;
}
