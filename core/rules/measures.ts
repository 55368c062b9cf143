import { DAY, NEVER } from "../time/instant";
import { LABELS } from "../estate/records";
import { filesReached } from "../estate/tree";
import { storeAt } from "../estate/estate";
import { isIntakeLink, isNamedOutside, isOpenLink, type Judged, type Moment } from "./judging";
import { LATCH_OF_RULE } from "./latches";
import type { RuleId } from "./ruleWords";

/** By what the shares that a rule looks at differ: a figure that a slot of the rule cuts, or their labels. */
export interface Measure {
  /** By what they are spread out, as the end of a sentence. */
  title: string;
  /** The shares that the rule looks at, whether they break it or not. */
  looksAt: (one: Judged, moment: Moment) => boolean;
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

const outside = (one: Judged) => one.outside;
const daysLeft = (one: Judged, { t }: Moment) => (one.share.ends === NEVER ? null : (one.share.ends - t) / DAY);
const ending = (looksAt: Measure["looksAt"], standard: number): Measure => ({
  title: "the days until they end",
  looksAt,
  figure: { slot: "maxDays", standard, of: daysLeft, none: "No end" },
});
const unused = (slot: "used" | "made", standard: number): Measure => ({
  title: slot === "used" ? "the days since they were last used" : "the days since they were made; never used",
  looksAt: (one, { estate }) =>
    one.outside &&
    storeAt(estate, one.share.position).capabilities.lastUse &&
    (one.share.lastUsed === null) === (slot === "made"),
  figure: {
    slot: "days",
    standard,
    of: ({ share }, { t }) => (t - (slot === "used" ? share.lastUsed! : share.made)) / DAY,
    none: "Unknown",
  },
});

const FIGURES: Partial<Record<RuleId, Measure>> = {
  "open-expiry": ending(isOpenLink, 30),
  "outside-expiry": ending(isNamedOutside, 180),
  "intake-window": ending(isIntakeLink, 30),
  dormant: unused("used", 45),
  "never-used": unused("made", 14),
  "weak-password": {
    title: "the characters in their password",
    looksAt: (one) => one.live && one.share.hasPassword,
    figure: { slot: "minLength", standard: 15, of: ({ share }) => share.passwordLength || null, none: "Not told" },
  },
  "open-many": {
    title: "the files that they lead to",
    looksAt: isOpenLink,
    figure: {
      slot: "maxFiles",
      standard: 50,
      of: ({ share }, { estate }) => filesReached(estate.tree, share.position),
      none: "None",
    },
  },
};

const TITLE = "the label of what they lead to";

/** By what a rule's shares are told apart; where it cuts no figure, by the worst label that they reach. */
export function measureOf(rule: RuleId): Measure {
  const known = FIGURES[rule];
  if (known) return known;
  if (rule.startsWith("intake-")) return { title: TITLE, looksAt: isIntakeLink };
  if (rule === "house-listed") return { title: TITLE, looksAt: (one) => one.live && one.share.audience === "house" };
  if (rule === "broken-target" || rule === "spent-link")
    return { title: TITLE, looksAt: (one, { t }) => one.share.isLink && one.share.revoked > t };
  if (rule.startsWith("open-") || LATCH_OF_RULE[rule] === "password") return { title: TITLE, looksAt: isOpenLink };
  return { title: TITLE, looksAt: outside };
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
