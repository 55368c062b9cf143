import type { Breach } from "./demand";

/** What a rule would do if it were enforced now: the first remedy of each finding. */
export interface RulePreview {
  words: string;
  /** Findings that have a remedy, those looked at here, and those without a remedy that can be applied as it is. */
  remedied: number;
  previewed: number;
  unremedied: number;
  insiders: number;
  outsiders: number;
}

/** The same with the letters that would go out first. */
export interface RuleOutlook extends RulePreview {
  mails: RuleMails;
}

/** The letters that a rule in mode `ask` would send, one to each owner; none for items that nobody answers for. */
export interface RuleMails {
  /** How many there would be, and how many findings each owner has, the most first. */
  owners: { address: string; name: string; findings: number }[];
  /** What the first of them would be asked about. */
  sample: Breach[];
  /** Findings that nobody answers for. */
  ownerless: number;
}
