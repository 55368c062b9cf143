import type { Estate } from "../estate/estate";
import type { LabelRule } from "../estate/labels";
import { type Label, LABELS } from "../estate/records";
import { type NamedItem, namedItem } from "./ways";

/** Live items that would get another label, from which to which, with some of them. */
export interface LabelOutlook {
  count: number;
  turns: { from: Label; to: Label; count: number; items: NamedItem[] }[];
}

const MOST_SHOWN = 20;

/** What other rules would label otherwise. Nothing is changed. */
export function labelOutlook(estate: Estate, rules: readonly LabelRule[]): LabelOutlook {
  const { tree } = estate;
  const [now, then] = [tree.label, tree.labelsBy(rules)];
  const turns = new Map<number, { count: number; some: number[] }>();
  let count = 0;
  for (let position = 0; position < tree.length; position++) {
    if (now[position] === then[position] || tree.live[position] === 0) continue;
    count++;
    const key = now[position] * LABELS.length + then[position];
    const turn = turns.get(key) ?? { count: 0, some: [] };
    turns.set(key, turn);
    turn.count++;
    if (turn.some.length < MOST_SHOWN) turn.some.push(position);
  }
  return {
    count,
    turns: [...turns]
      .sort((a, b) => b[1].count - a[1].count)
      .map(([key, turn]) => ({
        from: LABELS[Math.floor(key / LABELS.length)],
        to: LABELS[key % LABELS.length],
        count: turn.count,
        items: turn.some.map((position) => namedItem(estate, position)),
      })),
  };
}
