import { guarded, RequestError } from "@/server/auth/guard";
import { channelsOf } from "@/server/notices/channels";
import { mailBy } from "@/server/notices/sending";

const CONTENT = { subject: "A test from Tight Latch", text: "Mail goes out as it should. There is nothing to do.\n" };

/** Sends a mail to whoever asks. */
export const POST = guarded("change", async ({ db, actor }) => {
  const { mail } = await channelsOf(db);
  await mailBy(mail, { to: actor.email, ...CONTENT }).catch((error: Error) => {
    throw new RequestError(502, `The mail did not go out: ${error.message}`);
  });
  return { to: actor.email };
});
