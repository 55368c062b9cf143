import { bodyOf, guarded } from "@/server/http/guard";
import { channelsOf, channelsSchema, setChannels, shown } from "@/server/messages/channels";

export const GET = guarded("change", async ({ app }) => shown(await channelsOf(app)));

export const PUT = guarded("change", async ({ request, actor, app }) => {
  const changes = await bodyOf(request, channelsSchema);
  await setChannels(app, changes, actor.email);
  return shown(await channelsOf(app));
});
