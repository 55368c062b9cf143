import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { hasPeople } from "@/server/people/people";
import { database } from "@/server/platform/db/open";
import { FirstRunScreen } from "@/ui/signIn/FirstRunScreen";

export const metadata: Metadata = { title: "First run" };

export default async function Page() {
  if (await hasPeople(await database())) redirect("/sign-in");
  return <FirstRunScreen />;
}
