import { approvalReasons, approvalSchema, type ApprovalSetting } from "@/core/preview/approval";
import type { Change } from "@/core/changes/change";
import { type Db, type Reads, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger";
import { changesIn } from "./changes";
import type { Asking } from "../engine/client";

const NOBODY = "";
const NAME = "approval";
const NONE: ApprovalSetting = { above: null, insiders: false };

export async function approvalSetting(db: Reads): Promise<ApprovalSetting> {
  const kept = await savedText(db, NOBODY, NAME);
  return kept === undefined ? NONE : approvalSchema.parse(JSON.parse(kept));
}

export function setApproval(db: Db, setting: ApprovalSetting, actor: string): Promise<void> {
  return writing(db, async (within) => {
    await saveText(within, NOBODY, NAME, JSON.stringify(setting));
    await appendWithin(within, actor, "approval-set", setting);
  });
}

/** Why another administrator has to approve a docket, as things are now; empty where nobody has to. */
export async function reasonsToApprove(app: Asking, docketId: string): Promise<string[]> {
  return reasonsFor(app, await approvalSetting(app.db), await changesIn(app.db, docketId));
}

/** The same for some changes, of a docket that isn't there yet perhaps. */
export async function reasonsFor(app: Asking, setting: ApprovalSetting, changes: Change[]): Promise<string[]> {
  if (setting.above === null && !setting.insiders) return [];
  const preview = setting.insiders ? await app.engine.ask("preview", { changes }) : { careful: NOTHING_CAREFUL };
  return approvalReasons(setting, changes.length, preview);
}

const NOTHING_CAREFUL = { insiders: [], running: [] };
