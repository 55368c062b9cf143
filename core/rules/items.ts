import type { Judging } from "./judging";

/**
 * Live items that one outside share reaches with the download effectively blocked, and another with a
 * download possible. Ranges are counted by their ends, so the cost is one pass whatever they cover.
 */
export function itemsWithBypassedBlocks({ estate, shares }: Judging): number[] {
  const { tree } = estate;
  const blocked = new Int32Array(tree.length + 1);
  const possible = new Int32Array(tree.length + 1);
  for (const { share, outside } of shares) {
    if (!outside) continue;
    const changes = share.download ? possible : blocked;
    changes[share.position]++;
    changes[tree.end[share.position]]--;
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

/** Items with more live links on them than `max`, intake links included. */
export function itemsWithManyLinks({ shares }: Judging, max: number): number[] {
  const links = new Map<number, number>();
  for (const { share, live } of shares)
    if (live && share.isLink) links.set(share.position, (links.get(share.position) ?? 0) + 1);
  return [...links].filter(([, count]) => count > max).map(([position]) => position);
}
