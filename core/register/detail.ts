import type { Held } from "../access/history";
import { isLiveShare } from "../access/live";
import { type PersonEffect, type Preview, previewOf } from "../dockets/preview";
import { previewWords } from "../dockets/previewWords";
import { verdictOn } from "../dockets/verdict";
import type { WaysIn } from "../access/waysIn";
import { type Estate, sharesOn, storeAt } from "../estate/estate";
import type { LinkRecord, ShareRecord } from "../estate/records";
import type { Share } from "../estate/share";
import { inheritedFrom } from "../estate/tree";
import { RULES, type RuleId } from "../rules/catalogue";
import { brokenByItem, DEFAULT_RULES } from "../rules/findings";
import { reasonFor } from "../rules/reasons";
import { type Remedy, remediesFor } from "../rules/remedies";
import { DAY, rfc3339, type Seconds } from "../time/instant";
import type { RegisterRow } from "./row";
import { historyOf, type ShareAct } from "./history";
import { audienceWords, shareSentence } from "./words";

/** All that the inspector tells of one share. */
export interface ShareDetail {
  row: RegisterRow;
  sentence: string;
  address: string | null;
  findings: { rule: RuleId; title: string; reason: string; remedies: Remedy[] }[];
  /** What has happened to it, the newest first. */
  history: ShareAct[];
  /** What is said of its item as a whole. */
  itemFindings: { rule: RuleId; title: string }[];
  recipients: LinkRecord["recipients"];
  tellsRecipientUse: boolean;
  /** Other shares by which the same item is reached. */
  others: { id: string; words: string; at: string }[];
  ifGone: IfGone;
  /** Why its end date can't be set, or null where it can. */
  noExpiryWhy: string | null;
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

/**
 * @param record the share's own record: it holds what the columns don't, its address and its recipients' use
 * @param held all that its record has been
 */
export function shareDetail(
  estate: Estate,
  share: Share,
  record: ShareRecord,
  row: RegisterRow,
  t: Seconds,
  held: readonly Held[],
  waysIn?: WaysIn,
): ShareDetail {
  const { position } = share;
  const expiry = verdictOn(estate, { action: "set-expiry", shareId: share.id, expiresAt: rfc3339(t + 7 * DAY) }, t);
  return {
    row,
    sentence: shareSentence(estate, share),
    address: record.type === "link" ? (record.address ?? null) : null,
    findings: row.rules.map((rule) => ({
      rule,
      title: RULES[rule].title,
      reason: reasonFor(rule, estate, share, t),
      remedies: remediesFor(rule, estate, share, t),
    })),
    history: historyOf(held),
    itemFindings: brokenByItem({ estate, t }, position, DEFAULT_RULES).map((rule) => ({
      rule,
      title: RULES[rule].title,
    })),
    recipients: record.type === "link" ? record.recipients : [],
    tellsRecipientUse: storeAt(estate, position).capabilities.perRecipientUse,
    ifGone: ifGone(previewOf(estate, [{ action: "revoke", shareId: share.id }], t, waysIn)),
    others: othersTo(estate, share, t),
    noExpiryWhy: expiry.can ? null : expiry.why,
  };
}

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
