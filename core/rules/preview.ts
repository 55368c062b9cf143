import type { Breach } from "./demand";

/** What a rule would do were it carried out now: by the first remedy of each finding. */
export interface RulePreview {
  words: string;
  /** Findings that have a remedy, those that are looked at here, and those that have none that can be done as it stands. */
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

/** The letters that a rule which asks would send: one to each owner; those of items that nobody answers for go nowhere. */
export interface RuleMails {
  /** How many there would be, and how many findings each owner has, the most first. */
  owners: { address: string; name: string; findings: number }[];
  /** What the first of them would be asked about. */
  sample: Breach[];
  /** Findings that nobody answers for. */
  ownerless: number;
}
