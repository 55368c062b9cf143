import { DAY, NEVER, type Seconds } from "../time/instant";
import { LABELS } from "../estate/records";
import { filesReached } from "../estate/tree";
import type { Judged, Moment } from "./judging";
import type { RuleId } from "./ruleWords";

/** By what the shares that a rule looks at differ: a figure that a slot of the rule cuts, or their labels. */
export interface Measure {
  /** By what they are spread out, as the end of a sentence. */
  title: string;
  figure?: {
    /** The parameter that cuts it, and its standard. */
    slot: string;
    standard: number;
    /** Null where a share has none. */
    of: (one: Judged, moment: Moment) => number | null;
    /** What those without one are called. */
    none: string;
  };
}

const daysLeft = (one: Judged, { t }: Moment) => (one.share.ends === NEVER ? null : (one.share.ends - t) / DAY);
const ending = (standard: number): Measure => ({
  title: "the days until they end",
  figure: { slot: "maxDays", standard, of: daysLeft, none: "No end" },
});
const daysSince = (at: Seconds, { t }: Moment) => (t - at) / DAY;

const FIGURES: Partial<Record<RuleId, Measure>> = {
  "open-expiry": ending(30),
  "outside-expiry": ending(180),
  "intake-window": ending(30),
  dormant: {
    title: "the days since they were last used",
    figure: {
      slot: "days",
      standard: 45,
      of: ({ share }, moment) => daysSince(share.lastUsed!, moment),
      none: "Unknown",
    },
  },
  "never-used": {
    title: "the days since they were made; never used",
    figure: { slot: "days", standard: 14, of: ({ share }, moment) => daysSince(share.made, moment), none: "Unknown" },
  },
  "weak-password": {
    title: "the characters in their password",
    figure: { slot: "minLength", standard: 15, of: ({ share }) => share.passwordLength || null, none: "Not told" },
  },
  "open-many": {
    title: "the files that they lead to",
    figure: {
      slot: "maxFiles",
      standard: 50,
      of: ({ share }, { estate }) => filesReached(estate.tree, share.position),
      none: "None",
    },
  },
};

/** By what a rule's shares are told apart; where it cuts no figure, by the worst label that they reach. */
export function measureOf(rule: RuleId): Measure {
  return FIGURES[rule] ?? { title: "the label of what they lead to" };
}

/** One bar of a distribution: how many shares stand, and how many fall. */
export interface Bar {
  title: string;
  stands: number;
  falls: number;
}

const BARS = 30;

/** How wide the bars of a figure are, so that three times the standard is seen, and the cut wherever it is. */
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
      // What leads to nothing that is live has the label of its item.
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
