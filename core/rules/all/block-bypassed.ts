import { isLiveSlot, isOutsideShare, leadsOutside } from "../../access/live";
import { sharesOn } from "../../estate/estate";
import { inheritedFrom } from "../../estate/tree";
import { countWords } from "../../text/words";
import type { Moment } from "../judged";
import { none, rule } from "../rule";

export const blockBypassed = rule({
  title: "A download block undone by another share",
  sentence: "No other share undoes a download block.",
  severity: "low",
  parameters: none,
  items: itemsWithBypassedBlocks,
  itemRemedies: (position, { estate, t }) => {
    const undoing = inheritedFrom(estate.tree, position)
      .flatMap((at) => sharesOn(estate, at))
      .filter((share) => isOutsideShare(estate, share, t) && share.download);
    if (undoing.length === 0) return [];
    const what = countWords(undoing.length, "share");
    return [
      {
        words: `Block downloads on ${what} too`,
        changes: undoing.map(({ id }) => ({ action: "block-download", shareId: id })),
      },
      { words: `Revoke ${what} that undo it`, changes: undoing.map(({ id }) => ({ action: "revoke", shareId: id })) },
    ];
  },
});

/**
 * Live items that one outside share reaches with the download effectively blocked, and another with a
 * download possible. Ranges are counted by their ends, so the cost is one pass whatever they cover.
 */
function itemsWithBypassedBlocks({ estate, t }: Moment, slots: ArrayLike<number>): number[] {
  const { tree, shares } = estate;
  const blocked = new Int32Array(tree.length + 1);
  const possible = new Int32Array(tree.length + 1);
  for (let i = 0; i < slots.length; i++) {
    const slot = slots[i];
    if (!leadsOutside(estate, slot) || !isLiveSlot(estate, slot, t)) continue;
    const changes = shares.download[slot] === 1 ? possible : blocked;
    changes[shares.position[slot]]++;
    changes[tree.end[shares.position[slot]]]--;
  }
  const found: number[] = [];
  let blockedHere = 0;
  let possibleHere = 0;
  for (let position = 0; position < tree.length; position++) {
    blockedHere += blocked[position];
    possibleHere += possible[position];
    if (blockedHere > 0 && possibleHere > 0 && tree.live[position]) found.push(position);
  }
  return found;
}
