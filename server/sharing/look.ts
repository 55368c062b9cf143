import { createHash } from "node:crypto";
import type { OutlookTold } from "@/contract/sharing";
import { LABELS } from "@/core/estate/records";
import type { ShareOutlook } from "@/core/sharing/outlook";
import { isFree } from "@/core/sharing/templates";
import type { Wish } from "@/core/sharing/wish";
import type { DateSettings } from "@/core/time/style";
import { Problem } from "../platform/problem";
import type { Asking } from "../engine/client";
import { freeRequests } from "./settings";

/** Only this distinguishes a look from a request. */
const LOOKED = "look";

type Dates = Pick<DateSettings, "zone" | "style">;

/** What a share would be, by whoever asks for it. @throws {Problem} where its item isn't here */
export async function lookAt(app: Asking, wish: Wish, by: string, dates?: Dates): Promise<OutlookTold> {
  const outlook = await outlookOf(app, wish, { by, mark: LOOKED }, dates);
  return {
    ...outlook,
    needsApproval: !isFreeToMake(await freeRequests(app.db), wish, outlook, app.clock.seconds()),
    digest: digestOfOutlook(outlook),
  };
}

export async function outlookOf(
  app: Asking,
  wish: Wish,
  asker: { by: string; mark: string },
  dates?: Dates,
): Promise<ShareOutlook> {
  const outlook = await app.engine.ask("shareOutlook", { wish, asker, dates });
  if (!outlook) throw new Problem("unknown", "This item is no longer known. Choose another one.");
  return outlook;
}

/** Whether a request needs nobody's approval: it breaks no rule, can be made, and is covered by the setting. */
export function isFreeToMake(
  setting: Awaited<ReturnType<typeof freeRequests>>,
  wish: Wish,
  { breaks, cannot, labels, addresses }: ShareOutlook,
  now: number,
): boolean {
  const worst = LABELS.findLast((label) => labels[label] > 0) ?? "restricted";
  const isClear =
    breaks.length === 0 && cannot.length === 0 && addresses.every(({ cautions }) => cautions.length === 0);
  return isClear && isFree(setting, wish, worst, now);
}

/** A digest, so that what is made is what was shown: the changes, what they break, and what is done instead. */
export function digestOfOutlook({ changes, breaks, instead, cannot, files, addresses }: ShareOutlook): string {
  const made = changes.map((change) => ({ ...change, mark: LOOKED, by: "" }));
  const broken = breaks.map(({ rule, own, items }) => [rule, own, items]);
  const told = JSON.stringify([made, broken, instead, cannot, files, addresses]);
  return createHash("sha256").update(told).digest("hex");
}
