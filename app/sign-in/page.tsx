import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { hasPeople } from "@/server/people/people";
import { database } from "@/server/platform/db/open";
import { SignInScreen } from "@/ui/signIn/SignInScreen";

export const metadata: Metadata = { title: "Sign in" };

export default async function Page() {
  if (!(await hasPeople(await database()))) redirect("/first-run");
  return <SignInScreen />;
}
