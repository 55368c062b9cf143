import { bodyOf, guarded } from "@/server/http/guard";
import { channelsOf, channelsSchema, setChannels, shown } from "@/server/messages/channels";

export const GET = guarded("change", async ({ db }) => shown(await channelsOf(db)));

export const PUT = guarded("change", async ({ request, db, actor }) => {
  const changes = await bodyOf(request, channelsSchema);
  await setChannels(db, changes, actor.email);
  return shown(await channelsOf(db));
});
