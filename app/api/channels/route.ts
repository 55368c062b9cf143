import { bodyOf, guarded } from "@/server/auth/guard";
import { channelsOf, channelsSchema, setChannels, shown } from "@/server/notices/channels";

export const GET = guarded("change", async ({ db }) => shown(await channelsOf(db)));

export const PUT = guarded("change", async ({ request, db, actor }) => {
  const changes = await bodyOf(request, channelsSchema);
  await setChannels(db, changes, actor.email);
  return shown(await channelsOf(db));
});
