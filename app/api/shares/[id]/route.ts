import { guarded, RequestError } from "@/server/auth/guard";
import { engine } from "@/server/engine/client";

export const GET = guarded<{ id: string }>("read", async ({ params }) => {
  const detail = await engine().ask("share", { id: params.id });
  if (!detail) throw new RequestError(404, "This share is gone: it was revoked, or its store no longer has it.");
  return detail;
});
