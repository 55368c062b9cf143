import type { Metadata } from "next";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { may } from "@/server/platform/rights";
import { theApp } from "@/server/theApp";
import { AccountScreen } from "@/ui/account/AccountScreen";

export const metadata: Metadata = { title: "Your account" };

export default async function Page() {
  const app = await theApp();
  const actor = await app.actorFrom(await headers());
  if (!actor) redirect("/sign-in");
  return (
    <AccountScreen ways={await app.waysToSignIn()} lacksFactor={actor.lacksFactor} seesConsole={may(actor, "read")} />
  );
}
