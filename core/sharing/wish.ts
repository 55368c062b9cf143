import { z } from "zod";
import { mailAddress } from "../estate/mailAddress";
import { lastDayWords, listWords } from "../text/words";
import { seconds } from "../time/instant";

const instant = z.iso.datetime({ precision: 0, error: "must be a time such as 2026-12-01T17:00:00Z" });
const MOST_ADDRESSES = 50;

export const WISHED_ROLES = ["view", "comment", "edit"] as const;

/** What somebody wants to share, as the sentence says it, whatever the store can do. */
export const wishSchema = z.object({
  itemId: z.string().min(1),
  /** Anyone who holds the link, or people by their addresses. */
  to: z.union([z.literal("anyone"), z.array(mailAddress).min(1, "Name at least one address.").max(MOST_ADDRESSES)]),
  role: z.enum(WISHED_ROLES),
  from: instant.nullable(),
  until: instant.nullable(),
  /** For a link for anyone. */
  password: z.boolean(),
  download: z.boolean(),
  maxUses: z.int().min(1).max(1_000_000).nullable(),
  /** Who is sent a link for anyone; named people get theirs in any case. */
  mailTo: z.array(mailAddress).max(MOST_ADDRESSES),
  /** Id of the share that it replaces. */
  replaces: z.string().min(1).optional(),
});
export type Wish = z.infer<typeof wishSchema>;

const MAY = { view: "look at", comment: "comment on", edit: "edit" } as const;

/** A wish as a sentence. @param item the item's name */
export function wishWords({ to, role, from, until, password, download }: Wish, item: string): string {
  const parts = [
    `Let ${to === "anyone" ? "anyone" : listWords(to)} ${MAY[role]} ${item}`,
    from !== null && `from ${lastDayWords(seconds(from))}`,
    until === null ? "without an end" : `until ${lastDayWords(seconds(until))}`,
    password && "with a password",
    !download && "without downloading",
  ];
  return `${parts.filter(Boolean).join(", ")}.`;
}
