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
