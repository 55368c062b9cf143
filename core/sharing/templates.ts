import { z } from "zod";
import { type Label, LABELS } from "../estate/records";
import { DAY, rfc3339, seconds, type Seconds } from "../time/instant";
import { type Wish, WISHED_ROLES } from "./wish";

/** What the sentence begins with for items of one label. */
const template = z.object({
  /** For people by their addresses, rather than for anyone. */
  named: z.boolean(),
  role: z.enum(WISHED_ROLES),
  days: z.int().min(1).max(3_650),
  password: z.boolean(),
  download: z.boolean(),
});
export const templatesSchema = z.object(
  Object.fromEntries(LABELS.map((label) => [label, template])) as Record<Label, typeof template>,
);
export type Templates = z.infer<typeof templatesSchema>;

const NAMED = { named: true, role: "view", password: false } as const;
/** The stricter the label, the shorter: this is what the rules require by default. */
export const STANDARD_TEMPLATES: Templates = {
  public: { named: false, role: "view", days: 30, password: true, download: true },
  internal: { ...NAMED, days: 30, download: true },
  confidential: { ...NAMED, days: 30, download: false },
  restricted: { ...NAMED, days: 14, download: false },
};

/** Which requests need nobody's approval; null for none. */
export const freeRequestsSchema = z
  .object({ labels: z.array(z.enum(LABELS)).min(1), maxDays: z.int().min(1).max(3_650), named: z.boolean() })
  .nullable();
export type FreeRequests = z.infer<typeof freeRequestsSchema>;

/**
 * Whether a request needs nobody's approval. Breaking a rule always needs approval.
 * @param worst the most sensitive label among the items it would give access to
 */
export function isFree(setting: FreeRequests, wish: Wish, worst: Label, t: Seconds): boolean {
  if (setting === null || !setting.labels.includes(worst) || wish.until === null) return false;
  if (setting.named && wish.to === "anyone") return false;
  return seconds(wish.until) <= t + setting.maxDays * DAY;
}

/** A wish as a template gives it, without recipients. */
export function wishFrom(
  { named, role, days, password, download }: Templates[Label],
  itemId: string,
  t: Seconds,
): Wish {
  const end = t + days * DAY;
  return {
    ...{ itemId, to: named ? [] : "anyone", role, from: null, until: rfc3339(end - (end % DAY) - 1) },
    ...{ password: !named && password, download, maxUses: null, mailTo: [] },
  };
}
