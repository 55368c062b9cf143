import { normaliseAddress } from "../estate/address";
import type { EstateRecord, LinkRecord, ShareRecord } from "../estate/records";
import { lastDayWords } from "../text/words";
import { seconds } from "../time/instant";
import type { Change, Settings, ShareChange } from "./change";

/** A change that was carried out, with what is known about it. */
export interface DoneChange {
  change: Change;
  /** Its share as it was before; null where the change isn't about a share. */
  before: ShareRecord | null;
  /** What the store answered: the records that it changed, as they were then. */
  answered: readonly EstateRecord[];
  /** Its share as it is known now. */
  now: ShareRecord | null;
  /** Address of the item's previous owner, where it was handed over. */
  ownerBefore: string | null;
}

/** What undoes a change, or why nothing can. */
export type Undo = { changes: Change[] } | { why: string };

/**
 * What undoes a change: grants and settings are restored; for a revoked link a new one is made,
 * with a new address; a password that was replaced is known to nobody.
 */
export function undoOf(done: DoneChange): Undo {
  const { change, answered } = done;
  switch (change.action) {
    case "leave-group":
      return joinAgain(change, answered);
    case "join-group":
      return changes({ action: "leave-group", groupId: change.groupId, address: change.address });
    case "stop-inheriting":
      return changes({ action: "inherit", itemId: change.itemId });
    case "inherit":
      return changes({ action: "stop-inheriting", itemId: change.itemId });
    case "hand-over":
      return done.ownerBefore === null
        ? { why: "Nobody owned it before." }
        : changes({ ...change, address: done.ownerBefore });
    case "new-link":
    case "new-grant":
      return withdrawing(answered);
    default:
      return undoOfShare(change, done);
  }
}

function joinAgain({ groupId, address }: { groupId: string; address: string }, left: readonly EstateRecord[]): Undo {
  const memberIds = left.flatMap((record) => (record.type === "member" ? [record.memberId] : []));
  return memberIds.length === 0
    ? { why: "It isn’t known which of their records was in the group." }
    : changes({ action: "join-group", groupId, memberIds, address });
}

/** What was made is revoked. */
function withdrawing(answered: readonly EstateRecord[]): Undo {
  const made = answered.find(({ type }) => type === "link" || type === "grant") as ShareRecord | undefined;
  return made ? changes({ action: "revoke", shareId: made.id }) : { why: "It isn’t known which share was made." };
}

function undoOfShare(change: ShareChange, { before, answered, now }: DoneChange): Undo {
  const { shareId } = change;
  switch (change.action) {
    case "make-link":
    case "move-intake":
    case "remake-link":
      return withdrawing(answered);
    case "order-revoke":
      return changes({ action: "drop-order", shareId, on: change.on });
    case "drop-order":
      return changes({ action: "order-revoke", shareId, on: change.on });
  }
  // It was over before, and no store accepts an end in the past.
  if (change.action === "set-expiry" && change.reopen) return changes({ action: "revoke", shareId });
  if (before === null) return { why: "It isn’t known how the share was before." };
  switch (change.action) {
    case "revoke":
      return before.type === "link"
        ? changes({ action: "remake-link", shareId })
        : putBack(shareId, { revokedAt: null });
    case "set-password":
      return before.type === "link" && !before.password
        ? putBack(shareId, { password: false })
        : { why: "Nobody here knows the earlier password. Set a new one." };
    case "drop-recipient": {
      const recipients = withRecipient(before as LinkRecord, now ?? before, change.address);
      return putBack(shareId, { recipients });
    }
    case "put-back":
      return "revokedAt" in change.was
        ? changes({ action: "revoke", shareId })
        : changesBack(change.was, before, shareId);
    default:
      return putBack(shareId, pick(before, SIDES_OF[change.action]));
  }
}

/** What each change affects in a share. */
const SIDES_OF = {
  "set-expiry": ["expiresAt"],
  "block-download": ["download"],
  "set-role": ["role"],
  narrow: ["reach", "recipients", "listed", "password"],
  "set-start": ["opensAt"],
  "set-words": ["message"],
} as const;

function changesBack(was: Settings, before: ShareRecord, shareId: string): Undo {
  const back = pick(before, Object.keys(was) as (keyof Settings)[]);
  // A password that was set where there was none stays: people have been given it, and nobody is shut out by it.
  const { password, ...rest } = back;
  return password === true && Object.keys(rest).length === 0
    ? { why: "Nobody here knows the earlier password. Set a new one." }
    : putBack(shareId, password === true ? rest : back);
}

/** Today's recipients and one more, as they were then. */
function withRecipient(before: LinkRecord, now: ShareRecord, address: string): LinkRecord["recipients"] {
  const isTheirs = ({ email }: { email: string }) => normaliseAddress(email) === normaliseAddress(address);
  const left = now.type === "link" ? now.recipients.filter((one) => !isTheirs(one)) : [];
  return [...left, ...before.recipients.filter(isTheirs)];
}

function pick(record: ShareRecord, names: readonly (keyof Settings)[]): Settings {
  return Object.fromEntries(names.map((name) => [name, record[name as keyof ShareRecord] ?? null])) as Settings;
}

function putBack(shareId: string, was: Settings): Undo {
  return changes({ action: "put-back", shareId, was });
}

function changes(...all: Change[]): Undo {
  return { changes: all };
}

/**
 * What undoes several changes of one docket, in its order: the last change first. What is
 * restored on one share is restored together.
 * @param undone what `undoOf` gives for each, in the order in which they were done
 */
export function inOrderOfUndoing(undone: readonly Undo[]): Change[] {
  const order: Change[] = [];
  const back = new Map<string, Extract<Change, { action: "put-back" }>>();
  for (const undo of [...undone].reverse())
    for (const change of "changes" in undo ? undo.changes : []) {
      const known = change.action === "put-back" ? back.get(change.shareId) : undefined;
      if (change.action === "put-back" && known) known.was = together(known.was, change.was);
      else order.push(change);
      if (change.action === "put-back" && !known) back.set(change.shareId, change);
    }
  return order;
}

/** @param earlier what is to be restored for an earlier change */
function together(later: Settings, earlier: Settings): Settings {
  const both = { ...later, ...earlier };
  if (earlier.reach || !earlier.recipients || !later.recipients) return both;
  const known = new Set(earlier.recipients.map(({ email }) => normaliseAddress(email)));
  const others = later.recipients.filter(({ email }) => !known.has(normaliseAddress(email)));
  return { ...both, recipients: [...others, ...earlier.recipients] };
}

/** What is restored of a share, in words. */
export function settingsWords(was: Settings): string {
  const parts = [
    was.revokedAt === null && "in force",
    was.expiresAt === null && "no end",
    was.expiresAt && `ends ${lastDayWords(seconds(was.expiresAt))}`,
    was.role && `can ${was.role}`,
    was.opensAt !== undefined &&
      (was.opensAt === null ? "open from now" : `opens ${lastDayWords(seconds(was.opensAt))}`),
    was.message !== undefined && (was.message === null ? "the store’s own words" : "other words for visitors"),
    was.download !== undefined && (was.download ? "downloads possible" : "downloads blocked"),
    was.reach && (was.reach === "named" ? "for named people" : `${was.reach} link`),
    !was.reach && was.recipients && `${was.recipients.length} named`,
    was.password !== undefined && (was.password ? "a new password" : "no password"),
  ];
  return parts.filter(Boolean).join(", ");
}
