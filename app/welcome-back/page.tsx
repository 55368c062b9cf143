import type { Metadata } from "next";
import { Onward } from "@/ui/signIn/Onward";

export const metadata: Metadata = { title: "Signing in" };

export default async function Page({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const { to } = await searchParams;
  return <Onward to={typeof to === "string" ? to : null} />;
}
