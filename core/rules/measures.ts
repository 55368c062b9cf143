import { LABELS } from "../estate/records";
import type { Judged, Moment } from "./judged";
import { type RuleId, ruleOf } from "./list";
import type { Measure } from "./rule";

/** The figure that a rule's shares are spread by; where the rule has none, the worst label that they reach. */
export function measureOf(rule: RuleId): Measure {
  const definition = ruleOf(rule);
  return (definition.items ? undefined : definition.measure) ?? { title: "the label of what they lead to" };
}

/** One bar of a distribution: how many shares stand, and how many fall. */
export interface Bar {
  title: string;
  stands: number;
  falls: number;
}

const BARS = 30;

/** How wide the bars of a figure are, so that three times the default fits, and the threshold wherever it is. */
export function barWidth(standard: number, cut: number): number {
  return Math.max(1, Math.ceil(Math.max(3 * standard, 1.2 * cut) / BARS));
}

/** The bars of a measure, empty, and in which of them a share counts. */
export function barsOf(measure: Measure, parameters: Record<string, unknown>) {
  const empty = (title: string): Bar => ({ title, stands: 0, falls: 0 });
  const { figure } = measure;
  if (!figure)
    return {
      bars: LABELS.map(empty),
      // A share that reaches nothing live has the label of its item.
      barOf: ({ worst, share }: Judged, { estate }: Moment) =>
        worst === null ? estate.tree.label[share.position] : LABELS.indexOf(worst),
      width: null,
    };
  const width = barWidth(figure.standard, parameters[figure.slot] as number);
  const bars = Array.from({ length: BARS }, (_, i) =>
    empty(width === 1 ? `${i}` : `${i * width} to ${(i + 1) * width}`),
  );
  bars.push(empty(`Over ${BARS * width}`), empty(figure.none));
  const barOf = (one: Judged, moment: Moment) => {
    const value = figure.of(one, moment);
    return value === null ? BARS + 1 : Math.min(Math.floor(Math.max(value, 0) / width), BARS);
  };
  return { bars, barOf, width };
}
