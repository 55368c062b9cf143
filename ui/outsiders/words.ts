import type { Stance } from "@/core/estate/records";
import type { Likeness } from "@/core/outsiders/lookAlikes";
import { PRIVATE_MAILBOXES } from "@/core/outsiders/organisations";

export const nameOf = (domain: string) => (domain === PRIVATE_MAILBOXES ? "Private mailboxes" : domain);

export const organisationAt = (domain: string) => `/people/organisation?domain=${encodeURIComponent(domain)}`;

/** What the register is asked to see the shares that let an organisation's people in. */
export const sharesQuery = (domain: string) =>
  `${domain === PRIVATE_MAILBOXES ? "party:personal" : `organisation:${domain}`} state:live`;

export const STANCE_WORDS: Record<Stance, string> = {
  trusted: "trusted",
  personal: "private mailbox",
  denied: "denied",
};

/** What a stance does, for whoever chooses one. */
export const STANCE_EFFECTS: Record<Stance, string> = {
  trusted: "Rules may make exceptions for it, and domains that look like it are found.",
  personal: "Its addresses are private mailboxes of people, not of a firm.",
  denied: "Every share that lets its people in is a finding.",
};

export const LIKENESS_WORDS: Record<Likeness, string> = {
  looks: "look the same",
  edit: "one letter apart",
  ending: "same name, another ending",
  word: "same name with a word added",
};
