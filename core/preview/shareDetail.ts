import type { Held } from "../access/history";
import { isLiveShare } from "../access/live";
import { type PersonEffect, type Preview, previewOf } from "./preview";
import { previewWords } from "./previewWords";
import { verdictOn } from "../changes/verdict";
import type { Change } from "../changes/change";
import { planOf } from "../changes/plan";
import { type Latch, LATCHES } from "../changes/latches";
import type { WaysIn } from "../access/waysIn";
import { type Estate, sharesOn, storeAt } from "../estate/estate";
import { labelFromWords } from "../estate/labelWords";
import { type Label, LABELS, type LinkRecord, type ShareRecord } from "../estate/records";
import type { Share } from "../estate/share";
import { inheritedFrom } from "../estate/tree";
import { RULES, type RuleId } from "../rules/list";
import { brokenByItem, bySeverity, DEFAULT_RULES, type RuleSet } from "../rules/findings";
import { momentOf } from "../rules/judging";
import { reasonFor } from "../rules/reasons";
import { itemRemedies, type Remedy, remediesFor } from "../rules/remedies";
import type { DayWords } from "../text/words";
import { DAY, rfc3339, type Seconds } from "../time/instant";
import type { RegisterRow } from "../register/columns";
import { historyOf, type ShareEvent } from "../register/history";
import type { Note, WaiverView } from "../register/remarks";
import { audienceWords, shareSentence } from "../estate/shareWords";

/** All that the inspector tells of one share. */
export interface ShareDetail {
  row: RegisterRow;
  sentence: string;
  /** The label of its item itself, whatever is below that, and where the label comes from. */
  label: { label: Label; from: string };
  /** Whether it has an address to be shown: a live secret, which is asked for apart. */
  hasAddress: boolean;
  findings: { rule: RuleId; title: string; reason: string; remedies: Remedy[] }[];
  /** What has happened to it, the newest first. */
  history: ShareEvent[];
  /** What is said of its item as a whole. */
  itemFindings: { rule: RuleId; title: string; remedies: Remedy[] }[];
  recipients: LinkRecord["recipients"];
  tellsRecipientUse: boolean;
  /** Other shares by which the same item is reached. */
  others: { id: string; words: string; at: string }[];
  ifGone: IfGone;
  /** How each latch can be shut from here. */
  controls: Record<Latch, LatchControl>;
}

/** All that the inspector shows of one share. */
export type ShareView = ShareDetail & { notes: Note[]; waivers: WaiverView[] };

/** How a latch can be shut: what pressing it does, and why it can't be, or null where it can. */
export interface LatchControl {
  words: string;
  why: string | null;
}

/** What would happen if a share were revoked. */
export interface IfGone {
  /** In a line. */
  words: string;
  /** Who loses access, the first of them, outsiders first; and of how many. */
  lose: PersonEffect[];
  losers: number;
  /** Who keeps another way in, the first of them; and of how many. */
  keep: PersonEffect[];
  keepers: number;
}

const PEOPLE_SHOWN = 8;

interface Told {
  waysIn?: WaysIn;
  rules?: RuleSet;
  /** Rules that its item breaks without leave. */
  ofItem?: RuleId[];
  /** How days are told. */
  days?: DayWords;
}

/**
 * @param record the share's own record: it holds what the columns don't, such as its recipients' use
 * @param held all that its record has been
 */
export function shareDetail(
  estate: Estate,
  share: Share,
  record: ShareRecord,
  row: RegisterRow,
  t: Seconds,
  held: readonly Held[],
  { waysIn, rules = DEFAULT_RULES, ofItem, days }: Told = {},
): ShareDetail {
  const { position } = share;
  return {
    row,
    sentence: shareSentence(estate, share, days),
    label: { label: LABELS[estate.tree.label[position]], from: labelFromWords(estate, position) },
    hasAddress: record.type === "link" && record.address != null,
    findings: [...row.rules].sort(bySeverity(rules)).map((rule) => ({
      rule,
      title: RULES[rule].title,
      reason: reasonFor(rule, estate, share, t, rules, days),
      remedies: remediesFor(rule, estate, share, t, rules),
    })),
    history: historyOf(held, days),
    itemFindings: (ofItem ?? brokenByItem(momentOf(estate, t), position, rules)).map((rule) => ({
      rule,
      title: RULES[rule].title,
      remedies: itemRemedies(rule, estate, position, t, rules),
    })),
    recipients: record.type === "link" ? record.recipients : [],
    tellsRecipientUse: storeAt(estate, position).capabilities.perRecipientUse,
    ifGone: ifGone(previewOf(estate, [{ action: "revoke", shareId: share.id }], t, waysIn)),
    others: othersTo(estate, share, t),
    controls: controlsOf(estate, share, t),
  };
}

/** Stands for the end and the addresses that are chosen only when the latch is pressed. */
function intentsOf({ id: shareId, hasPassword }: Share, t: Seconds): Record<Latch, Change> {
  return {
    expiry: { action: "set-expiry", shareId, expiresAt: rfc3339(t + 30 * DAY), later: true },
    password: { action: "set-password", shareId, ...(hasPassword && { replace: true }) },
    download: { action: "block-download", shareId },
    named: { action: "narrow", shareId, addresses: ["somebody@outside.example"] },
  };
}

function controlsOf(estate: Estate, share: Share, t: Seconds): ShareDetail["controls"] {
  const intents = intentsOf(share, t);
  const control = (latch: Latch): LatchControl => {
    const changes = planOf(estate, intents[latch]);
    const verdicts = changes.map((change) => verdictOn(estate, change, t, changes));
    const refused = verdicts.find((verdict) => !verdict.can);
    return { words: CONTROL_WORDS[latch](changes), why: refused && !refused.can ? refused.why : null };
  };
  return Object.fromEntries(LATCHES.map((latch) => [latch, control(latch)])) as ShareDetail["controls"];
}

const CONTROL_WORDS: Record<Latch, (changes: Change[]) => string> = {
  expiry: ([first]) =>
    first.action === "order-revoke" ? "Schedule its revoke: its store can’t keep an end date" : "Set an end date",
  password: ([first]) =>
    first.action === "set-password" && first.replace ? "Replace its password" : "Give it a password",
  download: (changes) => (changes.length > 1 ? "Lower it to view and block downloads" : "Block downloads"),
  named: (changes) => (changes.length > 1 ? "Make a new link for named people" : "Limit it to named people"),
};

function ifGone(preview: Preview): IfGone {
  const losers = preview.people.filter(({ loses }) => loses.count > 0);
  const keepers = preview.people.filter(({ keeps }) => keeps.count > 0);
  return {
    words: previewWords(preview),
    lose: losers.slice(0, PEOPLE_SHOWN),
    losers: losers.length,
    keep: keepers.slice(0, PEOPLE_SHOWN),
    keepers: keepers.length,
  };
}

function othersTo(estate: Estate, share: Share, t: Seconds): ShareDetail["others"] {
  return inheritedFrom(estate.tree, share.position)
    .flatMap((at) => sharesOn(estate, at))
    .filter((other) => other.id !== share.id && isLiveShare(estate, other, t))
    .map((other) => ({
      id: other.id,
      words: `${other.isLink ? `${other.reach} link` : "right"} to ${other.role}: ${audienceWords(estate, other)}`,
      at: other.position === share.position ? "on the same item" : `from ${estate.tree.nameAt(other.position)}`,
    }));
}
