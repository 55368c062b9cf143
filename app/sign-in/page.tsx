import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { hasPeople } from "@/server/people/people";
import { theApp } from "@/server/theApp";
import { SignInScreen } from "@/ui/signIn/SignInScreen";

export const metadata: Metadata = { title: "Sign in" };

export default async function Page() {
  if (!(await hasPeople((await theApp()).db))) redirect("/first-run");
  return <SignInScreen />;
}
