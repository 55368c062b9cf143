import {
  approvalReasons,
  approvalSchema,
  type ApprovalSetting,
  type ApprovalView,
  approvalViewSchema,
  isLooser,
} from "@/core/preview/approval";
import type { Change } from "@/core/changes/change";
import { type Db, type Reads, type Tx, writing } from "../platform/db/open";
import { Problem } from "../platform/problem";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";
import { changesIn } from "./changes";
import type { Asking } from "../engine/client";

const NOBODY = "";
const NAME = "approval";
const PROPOSED = "approval-proposed";
const NONE: ApprovalSetting = { above: null, insiders: false };
const proposedSchema = approvalViewSchema.shape.proposed;
type Proposed = ApprovalView["proposed"];

export async function approvalSetting(db: Reads): Promise<ApprovalSetting> {
  const kept = await savedText(db, NOBODY, NAME);
  return kept === undefined ? NONE : approvalSchema.parse(JSON.parse(kept));
}

export async function approvalView(db: Reads): Promise<ApprovalView> {
  return { setting: await approvalSetting(db), proposed: await proposedNow(db) };
}

async function proposedNow(db: Reads): Promise<Proposed> {
  return proposedSchema.parse(JSON.parse((await savedText(db, NOBODY, PROPOSED)) ?? "null"));
}

const keepProposed = (tx: Tx, proposed: Proposed) => saveText(tx, NOBODY, PROPOSED, JSON.stringify(proposed));

/** Sets which dockets need approval. A looser setting than before waits until another administrator agrees to it. */
export function setApproval(db: Db, setting: ApprovalSetting, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    if (isLooser(setting, await approvalSetting(tx))) {
      await keepProposed(tx, { setting, by: actor, at: tx.clock.text() });
      return appendWithin(tx, actor, "approval-loosening-asked", setting);
    }
    await keepProposed(tx, null);
    await saveText(tx, NOBODY, NAME, JSON.stringify(setting));
    await appendWithin(tx, actor, "approval-set", setting);
  });
}

/**
 * Agrees to a setting that another administrator proposed.
 * @param seen the setting that the person saw
 * @throws {Problem} where something else is proposed by now, or they proposed it themselves
 */
export function agreeToApproval(db: Db, seen: ApprovalSetting, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { setting, by } = await stillProposed(tx, seen);
    if (by === actor) throw new Problem("conflict", "You asked for this: another administrator has to agree.");
    await keepProposed(tx, null);
    await saveText(tx, NOBODY, NAME, JSON.stringify(setting));
    await appendWithin(tx, actor, "approval-loosened", { ...setting, askedBy: by });
  });
}

/** The person who proposed it can do this too. @throws {Problem} where something else is proposed by now */
export function dropProposedApproval(db: Db, seen: ApprovalSetting, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    const { setting } = await stillProposed(tx, seen);
    await keepProposed(tx, null);
    await appendWithin(tx, actor, "approval-loosening-dropped", setting);
  });
}

async function stillProposed(tx: Tx, seen: ApprovalSetting): Promise<NonNullable<Proposed>> {
  const proposed = await proposedNow(tx);
  if (!proposed || isLooser(proposed.setting, seen) || isLooser(seen, proposed.setting))
    throw new Problem("conflict", "The request has changed. Nothing was changed: review it again.");
  return proposed;
}

/** Why another administrator has to approve a docket as it is now; empty where nobody has to. */
export async function reasonsToApprove(app: Asking, docketId: string): Promise<string[]> {
  return reasonsForDocket(app, docketId, await approvalSetting(app.db), await changesIn(app.db, docketId));
}

/** A docket that was sent for approval still needs it, even if the setting has changed. */
export async function reasonsForDocket(app: Asking, docketId: string, setting: ApprovalSetting, changes: Change[]) {
  const reasons = await reasonsFor(app, setting, changes);
  if (reasons.length > 0) return reasons;
  const docket = await app.db.selectFrom("docket").select("asked_by").where("id", "=", docketId).executeTakeFirst();
  return docket?.asked_by ? ["it was sent for approval"] : [];
}

/** The reasons given by the changes; the docket may not exist yet. */
export async function reasonsFor(app: Asking, setting: ApprovalSetting, changes: Change[]): Promise<string[]> {
  if (setting.above === null && !setting.insiders) return [];
  const preview = setting.insiders ? await app.engine.ask("preview", { changes }) : { careful: NOTHING_CAREFUL };
  return approvalReasons(setting, changes.length, preview);
}

const NOTHING_CAREFUL = { insiders: [], running: [] };
