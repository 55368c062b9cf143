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
  trusted: "Rules can make exceptions for it, and domains that look like it are flagged.",
  personal: "Its addresses are private people’s mailboxes, not a firm’s.",
  denied: "Every share that lets its people in is a finding.",
};

export const LIKENESS_WORDS: Record<Likeness, string> = {
  looks: "look the same",
  edit: "one letter apart",
  ending: "same name, different ending",
  word: "same name with an extra word",
};
