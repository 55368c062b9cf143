import { guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import { channelsOf } from "@/server/messages/channels";
import { mailBy } from "@/server/messages/sending";

const CONTENT = { subject: "A test from Tight Latch", text: "Mail goes out as it should. There is nothing to do.\n" };

/** Sends a mail to whoever asks. */
export const POST = guarded("change", async ({ actor, app }) => {
  const { mail } = await channelsOf(app);
  await mailBy(mail, { to: actor.email, ...CONTENT }).catch((error: Error) => {
    throw new Problem("unreachable", `The mail did not go out: ${error.message}`);
  });
  return { to: actor.email };
});
