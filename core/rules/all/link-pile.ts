import { z } from "zod";
import { isLiveShare, isLiveSlot } from "../../access/live";
import { sharesOn } from "../../estate/estate";
import { countWords } from "../../text/words";
import { ALWAYS } from "../../time/instant";
import type { Moment } from "../judged";
import { rule } from "../rule";

export const linkPile = rule({
  title: "Too many links on one item",
  sentence: "An item has at most [max] live links on it.",
  severity: "low",
  parameters: z.strictObject({ max: z.int().nonnegative().default(5) }),
  items: (moment, slots, { max }) => itemsWithManyLinks(moment, slots, max),
  itemRemedies: (position, { estate, t }, { max }) => {
    const links = sharesOn(estate, position).filter((share) => share.isLink && isLiveShare(estate, share, t));
    links.sort((a, b) => (a.lastUsed ?? ALWAYS) - (b.lastUsed ?? ALWAYS));
    const surplus = links.slice(0, Math.max(links.length - max, 0));
    if (surplus.length === 0) return [];
    const words = `Revoke the ${countWords(surplus.length, "link")} used longest ago`;
    return [{ words, changes: surplus.map(({ id }) => ({ action: "revoke", shareId: id })) }];
  },
});

/** Items with more live links on them than `max`, intake links included. */
function itemsWithManyLinks({ estate, t }: Moment, slots: ArrayLike<number>, max: number): number[] {
  const { shares } = estate;
  const links = new Map<number, number>();
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    if (!shares.isLink(slot) || !isLiveSlot(estate, slot, t)) continue;
    links.set(shares.position[slot], (links.get(shares.position[slot]) ?? 0) + 1);
  }
  return [...links].filter(([, count]) => count > max).map(([position]) => position);
}
