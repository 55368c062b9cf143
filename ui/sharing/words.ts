import type { Wish } from "@/core/sharing/wish";
import { listWords } from "@/core/text/words";

/** For whom a share is to be, in a few words. */
export function audienceOf({ to, mailTo }: Wish): string {
  if (to !== "anyone") return listWords(to);
  return mailTo.length === 0 ? "Anyone with the link" : `Anyone with the link, which is sent to ${listWords(mailTo)}`;
}
