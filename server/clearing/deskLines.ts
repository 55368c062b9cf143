import type { DeskLine } from "@/contract/desk";
import { countWords, listWords } from "@/core/text/words";
import type { Asking } from "../engine/client";

/** What the Desk says of links that are over: how many there are, store by store. */
export async function clearingLines({ engine }: Asking): Promise<DeskLine[]> {
  const { over } = await engine.ask("overLinks", { instants: [] });
  const counts = over.map(({ store, broken, spent }) => ({ store, count: broken + spent }));
  const total = counts.reduce((sum, { count }) => sum + count, 0);
  if (total === 0) return [];
  const where = listWords(counts.map(({ store, count }) => `${count} in ${store}`));
  const words = `${countWords(total, "link is", "links are")} over and still there: ${where}.`;
  return [{ words, href: "/register/over", isPressing: false }];
}
