import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { may } from "@/server/platform/rights";
import { theApp } from "@/server/theApp";
import { signInFor } from "@/ui/parts/leaveTo";
import { type MyPage, MySharesScreen } from "@/ui/myShares/MySharesScreen";

/** What whoever signs in decides. It guards nothing: all data come from route handlers, which check who asks. */
export async function mySharesPage(page: MyPage) {
  const app = await theApp();
  const sent = await headers();
  const actor = await app.actorFrom(sent);
  if (!actor) redirect(signInFor(sent.get("x-screen") ?? "/my-shares"));
  if (actor.lacksFactor) redirect("/account");
  return (
    <MySharesScreen
      name={actor.name}
      page={page}
      seesConsole={may(actor, "read")}
      dates={actor.dates}
      now={app.clock.seconds()}
    />
  );
}
