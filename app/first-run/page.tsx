import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { hasPeople } from "@/server/people/people";
import { theApp } from "@/server/theApp";
import { FirstRunScreen } from "@/ui/signIn/FirstRunScreen";

export const metadata: Metadata = { title: "First run" };

export default async function Page() {
  if (await hasPeople((await theApp()).db)) redirect("/sign-in");
  return <FirstRunScreen />;
}
