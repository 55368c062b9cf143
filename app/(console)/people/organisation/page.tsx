import type { Metadata } from "next";
import { OrganisationScreen } from "@/ui/outsiders/OrganisationScreen";

export const metadata: Metadata = { title: "Organisation" };

export default function Page() {
  return <OrganisationScreen />;
}
