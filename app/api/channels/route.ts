import { bodyOf, guarded } from "@/server/auth/guard";
import { channelsOf, channelsSchema, setChannels, shown } from "@/server/notices/channels";
import { append } from "@/server/ledger/ledger";

export const GET = guarded("change", async ({ db }) => shown(await channelsOf(db)));

export const PUT = guarded("change", async ({ request, db, actor }) => {
  const changes = await bodyOf(request, channelsSchema);
  await setChannels(db, changes);
  await append(db, actor.email, "channels.set", { channels: Object.keys(changes).join(", ") });
  return shown(await channelsOf(db));
});
