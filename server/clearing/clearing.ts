import type { ClearingSetting } from "@/contract/clearing";
import type { PlannedChange } from "@/core/changes/plan";
import { countWords } from "@/core/text/words";
import type { Carrying } from "../dockets/carrying";
import { approvalSetting, reasonsFor } from "../dockets/approval";
import { planned } from "../dockets/changes";
import { run } from "../dockets/executor";
import { beginApplying, openDocket } from "../dockets/lifecycle";
import { ITSELF } from "../dockets/standingOrders";
import { type Db, type Reads, writing } from "../platform/db/open";
import { saveText, savedText } from "../platform/saved";
import { appendWithin } from "../records/ledger/ledger";
import { enforcingStopped } from "../rules";

const SETTING = "clearing";
/** More than this many wait for somebody to look. */
const STANDARD: ClearingSetting = { on: false, most: 200 };
const MONTHS_SHOWN = 12;

export async function clearingSetting(db: Reads): Promise<ClearingSetting> {
  const kept = await savedText(db, "", SETTING);
  return kept === undefined ? STANDARD : (JSON.parse(kept) as ClearingSetting);
}

export function setClearing(db: Db, setting: ClearingSetting, actor: string): Promise<void> {
  return writing(db, async (tx) => {
    await saveText(tx, "", SETTING, JSON.stringify(setting));
    await appendWithin(tx, actor, "clearing-set", setting);
  });
}

/** The months in which links were cleared by themselves, the latest first. */
export async function monthsCleared(db: Reads) {
  const rows = await db.selectFrom("clearing").selectAll().orderBy("month", "desc").limit(MONTHS_SHOWN).execute();
  return rows.map(({ month, docket_id, links }) => ({ month, docketId: docket_id, links }));
}

/**
 * Revokes the links that are over, once a month, where that is switched on. What is more than may be done by itself, or
 * needs a second pair of eyes, waits in a docket. Where all enforcing is stopped nothing is done, until it goes on.
 */
export async function clearMonthly(app: Carrying): Promise<void> {
  const { on, most } = await clearingSetting(app.db);
  const month = app.clock.text().slice(0, 7);
  if (!on || (await enforcingStopped(app.db)) || (await isDone(app.db, month))) return;
  const [changes] = await planned(app, [{ action: "clear" }]);
  const plans = (changes ?? []).map((one): PlannedChange[] => [one]);
  const all = plans.flat().map(({ change }) => change);
  const reasons = await reasonsFor(app, await approvalSetting(app.db), all);
  const waits = plans.length > most || reasons.length > 0;
  const docketId = await writing(app.db, async (tx) => {
    if (await isDone(tx, month)) return null;
    const words = `Monthly clearing: ${countWords(plans.length, "link that is over", "links that are over")}`;
    const docket = plans.length === 0 ? null : await openDocket(tx, { madeBy: ITSELF, origin: "clear", words, plans });
    await tx.insertInto("clearing").values({ month, docket_id: docket, links: plans.length }).execute();
    await appendWithin(tx, ITSELF, "links-cleared", { month, docket, links: plans.length });
    return docket !== null && !waits && (await beginApplying(tx, docket, ITSELF)) ? docket : null;
  });
  if (docketId) run(app, docketId);
}

async function isDone(db: Reads, month: string): Promise<boolean> {
  return (await db.selectFrom("clearing").select("id").where("month", "=", month).executeTakeFirst()) !== undefined;
}
