import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { may } from "@/server/platform/rights";
import { theApp } from "@/server/theApp";
import { signInFor } from "@/ui/parts/leaveTo";
import { MySharesScreen } from "@/ui/myShares/MySharesScreen";

/** What whoever signs in decides. It guards nothing: all data come from route handlers, which check who asks. */
export async function mySharesPage(round: number | null) {
  const app = await theApp();
  const sent = await headers();
  const actor = await app.actorFrom(sent);
  if (!actor) redirect(signInFor(sent.get("x-screen") ?? "/my-shares"));
  if (actor.lacksFactor) redirect("/account");
  return (
    <MySharesScreen
      name={actor.name}
      round={round}
      seesConsole={may(actor, "read")}
      dates={actor.dates}
      now={app.clock.seconds()}
    />
  );
}
