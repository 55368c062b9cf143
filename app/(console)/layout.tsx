import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { may } from "@/server/platform/rights";
import { theApp } from "@/server/theApp";
import { ConsoleFrame } from "@/ui/frame/ConsoleFrame";
import { signInFor } from "@/ui/parts/leaveTo";

/**
 * Decides what is drawn, and guards nothing: a page can be asked for without its layout. So pages hold no
 * data; all of it comes from route handlers, which check who asks.
 */
export default async function ConsoleLayout({ children }: { children: ReactNode }) {
  const app = await theApp();
  const sent = await headers();
  const actor = await app.actorFrom(sent);
  if (!actor) redirect(signInFor(sent.get("x-screen") ?? "/"));
  if (actor.lacksFactor) redirect("/account");
  if (!may(actor, "read")) redirect("/my-shares");
  return (
    <NuqsAdapter>
      <ConsoleFrame
        viewer={{ name: actor.name, address: actor.email, mayChange: may(actor, "change") }}
        dates={actor.dates}
        ways={await app.waysToSignIn()}
        now={app.clock.seconds()}
      >
        {children}
      </ConsoleFrame>
    </NuqsAdapter>
  );
}
