import type { Severity } from "./severity";

/** What a rule is called and says. What it computes stands in the catalogue, which screens have no need of. */
export interface RuleWords {
  /** What the finding says, in a few words. */
  title: string;
  /** What must be so, as a sentence in which [a parameter] stands in brackets. */
  sentence: string;
  /** Lists of findings begin with the most pressing. */
  severity: Severity;
  /** Whether it is off until somebody turns it on. */
  isExtra?: true;
}

/** The rules, by id. Their order is the order in which they are shown. */
export const RULE_WORDS = {
  "open-expiry": {
    title: "Open link without a near end",
    sentence: "Open links end within [maxDays] days.",
    severity: "high",
  },
  "open-password": {
    title: "Open link without a password",
    sentence: "Open links to [labels] things have a password.",
    severity: "high",
  },
  "open-edit": {
    title: "Anyone may edit",
    sentence: "Open links let nobody edit.",
    severity: "urgent",
  },
  "open-forbidden": {
    title: "Restricted files behind an open link",
    sentence: "No open link leads to [labels] things.",
    severity: "urgent",
  },
  "outside-download": {
    title: "Outsiders can download",
    sentence: "Outsiders can't download [labels] things.",
    severity: "high",
  },
  "outside-expiry": {
    title: "Outside share without a near end",
    sentence: "Shares with named outsiders end within [maxDays] days.",
    severity: "low",
  },
  "outside-manage": {
    title: "An outsider may manage",
    sentence: "No outsider may manage.",
    severity: "high",
  },
  "party-denied": {
    title: "Shared with a denied organisation",
    sentence: "Nothing is shared with a denied organisation.",
    severity: "urgent",
  },
  "personal-mailbox": {
    title: "Shared with a private mailbox",
    sentence: "Nothing is shared with a private mailbox.",
    severity: "high",
  },
  dormant: {
    title: "Not used for long",
    sentence: "Outside shares not used for [days] days end.",
    severity: "low",
  },
  "never-used": {
    title: "Never used",
    sentence: "Outside shares that nobody has used [days] days after they were made end.",
    severity: "low",
  },
  "sharer-left": {
    title: "Its maker or owner has left",
    sentence: "Outside shares have a maker and an owner who are still here.",
    severity: "high",
  },
  "engagement-over": {
    title: "The work it was for is over",
    sentence: "What was shared for a piece of work ends [graceDays] days after it.",
    severity: "high",
  },
  "folder-wide": {
    title: "A whole folder is shared",
    sentence: "Folders with folders below, or with unlike labels, aren't shared outside whole.",
    severity: "low",
  },
  "outsider-in-group": {
    title: "A group with an outsider in it",
    sentence: "No group with an outsider in it holds a right to [labels] things.",
    severity: "high",
  },
  "block-bypassed": {
    title: "A download block that another share undoes",
    sentence: "A download block isn't undone by another share.",
    severity: "low",
  },
  "link-pile": {
    title: "Too many links on one item",
    sentence: "An item has at most [max] live links on it.",
    severity: "low",
  },
  "house-listed": {
    title: "Found by the whole house in search",
    sentence: "The house doesn't find [labels] things by searching.",
    severity: "low",
  },
  "intake-password": {
    title: "Intake link without a password",
    sentence: "Intake links have a password.",
    severity: "low",
  },
  "intake-window": {
    title: "Intake link without a near end",
    sentence: "Intake links end within [maxDays] days.",
    severity: "low",
  },
  "intake-mixed": {
    title: "Intake folder holds or shares other things",
    sentence: "Intake links have a folder of their own.",
    severity: "low",
  },
  "broken-target": {
    title: "Its target is gone",
    sentence: "No link leads to something deleted.",
    severity: "low",
  },
  "spent-link": {
    title: "Ended or used up",
    sentence: "Links that have ended or are used up are cleared away.",
    severity: "low",
  },
  "look-alike": {
    title: "A domain that looks like a partner's",
    sentence: "Nothing is shared with a domain that can be taken for our own or a partner's.",
    severity: "urgent",
    isExtra: true,
  },
  "weak-password": {
    title: "A link's password is weak",
    sentence: "Passwords on links have at least [minLength] characters, and aren't common ones.",
    severity: "high",
    isExtra: true,
  },
  "reused-password": {
    title: "A link's password is used again",
    sentence: "Each link has a password of its own.",
    severity: "high",
    isExtra: true,
  },
  "outside-edit-folder": {
    title: "Outsiders can change a whole folder",
    sentence: "Nobody outside may edit a whole folder.",
    severity: "high",
    isExtra: true,
  },
  "open-many": {
    title: "An open link to many files",
    sentence: "An open link leads to at most [maxFiles] files.",
    severity: "high",
    isExtra: true,
  },
  "store-abroad": {
    title: "Kept outside our region",
    sentence: "What is shared outside is kept in [regions].",
    severity: "high",
    isExtra: true,
  },
} satisfies Record<string, RuleWords>;

export type RuleId = keyof typeof RULE_WORDS;
export const RULE_IDS = Object.keys(RULE_WORDS) as RuleId[];

export function ruleWords(id: RuleId): RuleWords {
  return RULE_WORDS[id];
}
