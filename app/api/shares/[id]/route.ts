import { guarded, pastOf, RequestError } from "@/server/auth/guard";
import { engine } from "@/server/engine/client";

export const GET = guarded<{ id: string }>("read", async ({ request, params }) => {
  const detail = await engine().ask("share", { id: params.id }, pastOf(request));
  if (!detail) throw new RequestError(404, "This share is gone: it was revoked, or its store no longer has it.");
  return detail;
});
