import { begun } from "../text/text";

/** What can happen to shares and items. Each verb is exact: what it says has been done, and nothing more. */
export const VERBS = {
  "shared-open": "made an open link to",
  "shared-house": "made a house link to",
  "shared-named": "made a named link to",
  "shared-intake": "made an intake link to",
  granted: "gave a right to",
  "joined-group": "was added to a group",
  "left-group": "was removed from a group",
  "recipient-added": "added a recipient to",
  "recipient-dropped": "removed a recipient from",
  "expiry-set": "set an end date on",
  "expiry-removed": "removed the end date from",
  "password-set": "set a password on",
  "password-removed": "removed the password from",
  "role-raised": "raised what people may do with",
  "role-lowered": "lowered what people may do with",
  "block-set": "blocked downloads of",
  "block-removed": "allowed downloads of",
  "inheritance-stopped": "stopped inheritance for",
  "inheritance-resumed": "restarted inheritance for",
  revoked: "revoked a share of",
  opened: "opened",
  downloaded: "downloaded",
  refused: "was refused at",
  "sent-in": "sent a file in to",
  "copy-sent": "sent a copy out of",
  created: "made",
  renamed: "renamed",
  moved: "moved",
  binned: "binned",
  restored: "restored",
  "owner-changed": "changed the owner of",
  "label-changed": "changed the label of",
  "start-set": "set a start on",
  "words-set": "changed the words for visitors of",
  /** Something that a store sent and that couldn't be read; it is kept as it came. */
  unreadable: "did something unreadable to",
} as const;
export type Verb = keyof typeof VERBS;

/** Verbs by which something becomes reachable from outside that was not before. */
export const OPENING: readonly Verb[] = ["shared-open", "shared-named", "shared-intake", "granted", "recipient-added"];

/** Verbs by which data leaves: no later revoke brings back what has been taken. */
export const TAKING: readonly Verb[] = ["downloaded", "copy-sent"];

/** Verbs by which a share is used. */
export const USING: readonly Verb[] = ["opened", "downloaded", "sent-in", "copy-sent"];

export function isVerb(verb: string): verb is Verb {
  return Object.hasOwn(VERBS, verb);
}

/** A verb as it is in a sentence; one that isn't ours, as its store has it. */
export function verbWords(verb: string): string {
  return isVerb(verb) ? VERBS[verb] : `did “${verb}” to`;
}

/** A verb as a heading: `Shared open`. */
export function verbTitle(verb: string): string {
  return begun(verb.replaceAll("-", " "));
}
