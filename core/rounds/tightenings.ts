import { type Change, type ShareChange, subjectOf } from "../changes/change";
import { changeWords } from "../changes/changeWords";
import { holdsAlready } from "../changes/holds";
import { planOf } from "../changes/plan";
import { verdictOn } from "../changes/verdict";
import type { Estate } from "../estate/estate";
import { ROLES } from "../estate/records";
import type { Share } from "../estate/share";
import type { RuleId } from "../rules/list";
import { firstRemedy, remediesFor } from "../rules/remedies";
import { within } from "../text/text";
import { listWords } from "../text/words";
import { DAY, rfc3339, seconds, type Seconds } from "../time/instant";

/** One way to tighten a share. */
export interface Tightening {
  /** Its id, by which it is chosen. */
  key: string;
  words: string;
  /** In the order in which they have to be made. */
  changes: Change[];
}

/** How far off the end date is that tightening sets. */
const TIGHTENED_DAYS = 30;

/**
 * How a share can be tightened in its store: first what mends all its findings, then each latch on its own.
 * Leaves out what is so already or can't be done.
 * @param broken the rules that it breaks
 */
export function tighteningsOf(estate: Estate, share: Share, broken: readonly RuleId[], t: Seconds): Tightening[] {
  const { id: shareId } = share;
  const ways: [string, Change[]][] = [
    ["suggested", remedying(estate, share, broken, t)],
    ["password", [{ action: "set-password", shareId }]],
    ["download", [{ action: "block-download", shareId }]],
    ["view", [{ action: "set-role", shareId, role: "view" }]],
    ["end", endingOn(estate, share, t + TIGHTENED_DAYS * DAY, t)],
  ];
  const possible = ways.map(([key, wanted]) => wayOf(estate, share, key, wanted, t)).filter((way) => way !== null);
  return possible.filter((one, i) => possible.findIndex((other) => other.words === one.words) === i);
}

/** What mends all findings of a share; nothing where that means ending it, or it can't be done from here. */
function remedying(estate: Estate, share: Share, broken: readonly RuleId[], t: Seconds): Change[] {
  const strictest = new Map<string, Change>();
  for (const rule of broken) {
    const remedy = firstRemedy(remediesFor(rule, estate, share, t));
    if (!remedy || remedy.changes.some(({ action }) => action === "revoke")) return [];
    for (const change of remedy.changes) {
      const other = strictest.get(subjectOf(change));
      if (!other || isStricter(change, other)) strictest.set(subjectOf(change), change);
    }
  }
  return [...strictest.values()];
}

function isStricter(change: Change, other: Change): boolean {
  if (change.action === "set-role" && other.action === "set-role")
    return ROLES.indexOf(change.role) < ROLES.indexOf(other.role);
  const [end, otherEnd] = [endIn(change), endIn(other)];
  return end !== null && otherEnd !== null && end < otherEnd;
}

function endIn(change: Change): Seconds | null {
  if (change.action === "set-expiry") return seconds(change.expiresAt);
  return change.action === "order-revoke" ? seconds(change.on) : null;
}

/** Null where it is so already, or can't be done. */
function wayOf(estate: Estate, share: Share, key: string, wanted: readonly Change[], t: Seconds): Tightening | null {
  const changes = wanted
    .filter((change) => !holdsAlready(share, change as ShareChange, t))
    .flatMap((change) => planOf(estate, change));
  if (changes.length === 0 || changes.some((change) => !verdictOn(estate, change, t, changes).can)) return null;
  const [first, ...rest] = changes.map(changeWords);
  return { key, words: listWords([first, ...rest.map(within)]), changes };
}

/**
 * What makes a share end at an instant: nothing where it ends by then anyway, a standing order where its store keeps no
 * such end date, and nothing where neither is possible.
 */
export function endingOn(estate: Estate, share: Share, at: Seconds, t: Seconds): Change[] {
  const { id: shareId } = share;
  if (share.ends <= at) return [];
  const ways: Change[] = [
    { action: "set-expiry", shareId, expiresAt: rfc3339(at) },
    { action: "order-revoke", shareId, on: rfc3339(at) },
  ];
  const planned = ways.flatMap((change) => planOf(estate, change).slice(0, 1));
  return planned.filter((change) => verdictOn(estate, change, t).can).slice(0, 1);
}
