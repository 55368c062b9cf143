import { approvalSchema } from "@/core/preview/approval";
import { bodyOf, guarded } from "@/server/http/guard";
import { approvalSetting, setApproval } from "@/server/dockets/approval";

export const GET = guarded("read", ({ db }) => approvalSetting(db));

export const PUT = guarded("change", async ({ request, db, actor }) => {
  await setApproval(db, await bodyOf(request, approvalSchema), actor.email);
  return approvalSetting(db);
});
