import type { DeskLine } from "@/contract/desk";
import { countWords } from "@/core/text/words";
import type { Db } from "../platform/db/open";
import { countAsked } from "./requests";

/** What the Desk says of shares that people ask for. */
export async function sharingLines(db: Db): Promise<DeskLine[]> {
  const asked = await countAsked(db);
  if (asked === 0) return [];
  const words = `${countWords(asked, "request", "requests")} to share something ${asked === 1 ? "waits" : "wait"} for your word.`;
  return [{ words, href: "/share/requests", isPressing: true }];
}
