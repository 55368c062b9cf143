import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { theApp } from "@/server/theApp";
import { FirstRunScreen } from "@/ui/signIn/FirstRunScreen";

export const metadata: Metadata = { title: "First run" };

export default async function Page() {
  if (await (await theApp()).hasPeople()) redirect("/sign-in");
  return <FirstRunScreen />;
}
