import { z } from "zod";
import { wishSchema } from "@/core/changes/wish";
import { bodyOf, guarded } from "@/server/http/guard";
import { stage, trayOf, unstage } from "@/server/dockets/tray";

const staging = z.object({ changes: z.array(wishSchema).min(1).max(20_000) });
/** Null takes out everything. */
const unstaging = z.object({ subjects: z.array(z.string()).nullable() });

export const GET = guarded("read", ({ actor, app }) => trayOf(app, actor.email));

export const POST = guarded("change", async ({ request, actor, app }) => {
  const { changes } = await bodyOf(request, staging);
  return { unknown: await stage(app, actor.email, changes) };
});

export const DELETE = guarded("change", async ({ request, db, actor }) => {
  const { subjects } = await bodyOf(request, unstaging);
  await unstage(db, actor.email, subjects);
  return {};
});
