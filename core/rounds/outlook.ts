import { isLiveShare } from "../access/live";
import { suggestionFor, SUGGESTIONS } from "../advice/suggest";
import type { Estate } from "../estate/estate";
import { storeAt } from "../estate/estate";
import { LABELS } from "../estate/records";
import type { Share } from "../estate/share";
import { audienceWords, shareSentence } from "../estate/shareWords";
import { filesReached, placeOf, worstLabel } from "../estate/tree";
import { brokenBy, DEFAULT_RULES } from "../rules/findings";
import type { Judged, Moment } from "../rules/judged";
import { judgeShare } from "../rules/judging";
import { type RuleId, RULES } from "../rules/list";
import { reasonFor } from "../rules/reasons";
import type { Seconds } from "../time/instant";
import { askedAbout } from "./askedAbout";
import { audienceKeyOf } from "./audienceKey";
import { tighteningsOf } from "./tightenings";

/** What is suggested for an outside share; null for any other. */
export interface Suggested {
  suggest: (typeof SUGGESTIONS)[number];
  /** Until when it may stay; null where it should be ended. */
  until: Seconds | null;
  because: RuleId[];
}

/** A line as it is recorded: what it asks about, as it is at that moment. */
export interface LineMade {
  shareId: string;
  itemName: string;
  storeName: string;
  place: string[];
  sentence: string;
  audience: string;
  /** Groups the lines of one audience. */
  audienceKey: string;
  audienceTitle: string;
  /** Everything that it is decided by. */
  asked: string;
  suggested: Suggested | null;
}

/** What is known now about a line's share. */
export interface LineOutlook extends LineMade {
  /** Whether it lets nobody in any more. */
  isOver: boolean;
  label: (typeof LABELS)[number] | null;
  files: number;
  lastUsed: Seconds | null;
  /** Whether its store tells when it is used. */
  isUseTold: boolean;
  reasons: { rule: RuleId; title: string; reason: string }[];
  tightenings: { key: string; words: string }[];
}

/** A line as it is now, to be recorded. Its days are in UTC. */
export function lineMade(share: Share, moment: Moment): LineMade {
  const { estate, dayWords } = moment;
  const { key, title } = audienceKeyOf(estate, share);
  return {
    shareId: share.id,
    itemName: estate.tree.nameAt(share.position),
    storeName: storeAt(estate, share.position).name,
    place: placeOf(estate.tree, share.position),
    sentence: shareSentence(estate, share, dayWords),
    audience: audienceWords(estate, share),
    audienceKey: key,
    audienceTitle: title,
    asked: askedAbout(estate, share),
    suggested: suggestedFor(judgeShare(moment, share), moment),
  };
}

function suggestedFor(judged: Judged, moment: Moment): Suggested | null {
  return judged.outside ? suggestionFor(judged, moment) : null;
}

/** The same, with what else the decider wants to know, and days in the reader's time zone. */
export function lineOutlook(share: Share, moment: Moment): LineOutlook {
  const { estate, t, dayWords } = moment;
  const { tree } = estate;
  const label = worstLabel(tree, share.position, tree.end[share.position]);
  const judged = judgeShare(moment, share);
  const broken = judged.outside ? brokenBy(judged, moment, DEFAULT_RULES) : [];
  const made = lineMade(share, moment);
  return {
    ...made,
    isOver: !isLiveShare(estate, share, t),
    label: label < 0 ? null : LABELS[label],
    files: filesReached(tree, share.position),
    lastUsed: share.lastUsed,
    isUseTold: storeAt(estate, share.position).capabilities.lastUse,
    reasons: (made.suggested?.because ?? []).map((rule) => ({
      rule,
      title: RULES[rule].title,
      reason: reasonFor(rule, estate, share, t, DEFAULT_RULES, dayWords),
    })),
    tightenings: tighteningsOf(estate, share, broken, t).map(({ key, words }) => ({ key, words })),
  };
}

/** Whether a line's share no longer lets anybody in, or no longer exists. */
export function isOver(estate: Estate, share: Share | undefined, t: Seconds): boolean {
  return !share || share.position < 0 || !isLiveShare(estate, share, t);
}
