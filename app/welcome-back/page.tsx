import type { Metadata } from "next";
import { Onward } from "@/ui/signIn/Onward";

export const metadata: Metadata = { title: "Signing in" };

export default function Page() {
  return <Onward />;
}
