import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { theApp } from "@/server/theApp";
import { SignInScreen } from "@/ui/signIn/SignInScreen";

export const metadata: Metadata = { title: "Sign in" };

/** What the sign-in package puts into the address when a provider has sent somebody back. */
const REFUSED = "Single sign-on did not let you in. Ask an administrator whether they have made an account for you.";

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<{ error?: string; to?: string | string[] }>;
}) {
  const app = await theApp();
  if (!(await app.hasPeople())) redirect("/first-run");
  const { error, to } = await searchParams;
  return (
    <SignInScreen
      ways={await app.waysToSignIn()}
      refusal={error === undefined ? null : REFUSED}
      to={typeof to === "string" ? to : null}
    />
  );
}
