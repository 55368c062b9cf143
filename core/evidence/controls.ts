import type { LedgerKind } from "../ledger/kinds";

/** What can stand for a control, and which entries of the ledger tell that it was done. */
export const EVIDENCE = {
  readings: { title: "Readings of the stores", kinds: ["store-read", "file-imported", "report-imported"] },
  rules: { title: "Rules set", kinds: ["rule-set"] },
  waivers: { title: "Waivers given or ended", kinds: ["waivers-given", "waivers-ended", "waiver-over"] },
  dockets: { title: "Dockets of changes applied", kinds: ["docket-applied"] },
  changes: { title: "Changes carried out", kinds: ["change-done", "change-by-hand"] },
  answers: { title: "Owners’ answers to findings", kinds: ["demand-answered"] },
  rounds: { title: "Rounds closed", kinds: ["round-closed"] },
  decisions: { title: "Decisions in rounds", kinds: ["lines-decided"] },
  looks: { title: "Decisions reviewed again", kinds: ["look-decided"] },
  leavers: { title: "Leavers fully settled", kinds: ["leaver-settled"] },
  directory: { title: "Directories read", kinds: ["directory-read"] },
  stances: { title: "Stances on organisations", kinds: ["stance-set", "stance-ended"] },
  projects: {
    title: "Projects made, changed or ended",
    kinds: ["engagement-made", "engagement-changed", "engagement-ended"],
  },
  alerts: { title: "Alerts settled", kinds: ["alert-settled"] },
  watches: { title: "Watches set", kinds: ["watch-made", "watch-changed"] },
  accounts: { title: "Accounts and roles changed", kinds: ["person-invited", "person-removed", "role-changed"] },
  secondFactor: { title: "Sign-in rules set", kinds: ["sign-in-policy-set"] },
  witnesses: { title: "Witnesses added", kinds: ["witness-added"] },
  packs: { title: "Evidence packs made", kinds: ["pack-made"] },
  exports: { title: "Tables exported", kinds: ["register-exported", "trail-exported", "estate-exported"] },
} as const satisfies Record<string, { title: string; kinds: readonly LedgerKind[] }>;
export type EvidenceKind = keyof typeof EVIDENCE;

/** A published control, in a few words of ours, and what can be evidence for it here. */
export interface Control {
  number: string;
  words: string;
  evidence: readonly EvidenceKind[];
}

/**
 * Numbers by NIST SP 800-53 Rev. 5, ISO/IEC 27001:2022 Annex A, CIS Controls v8, PCI DSS v4 and Regulation (EU) 2016/679,
 * from memory; the words are ours, and short.
 */
export const CONTROLS: readonly { standard: string; controls: readonly Control[] }[] = [
  {
    standard: "NIST SP 800-53 Rev. 5",
    controls: [
      { number: "AC-2(3)", words: "Closed accounts lose access", evidence: ["leavers", "directory", "accounts"] },
      { number: "AC-3", words: "Access is enforced as it was approved", evidence: ["rules", "dockets", "changes"] },
      { number: "AC-4", words: "Information flows only where it may", evidence: ["rules", "stances", "changes"] },
      {
        number: "AC-6(7)",
        words: "Rights are reviewed, and taken where not needed",
        evidence: ["rounds", "decisions"],
      },
      { number: "AC-21", words: "Sharing with others is decided on", evidence: ["projects", "stances", "decisions"] },
      { number: "AC-22", words: "Public content is reviewed", evidence: ["readings", "answers", "waivers"] },
      { number: "AU-6", words: "Audit records are reviewed and findings reported", evidence: ["alerts", "watches"] },
      { number: "AU-9(3)", words: "Records are protected by cryptography", evidence: ["witnesses", "packs"] },
      { number: "AU-10", words: "Nobody can deny what they did", evidence: ["dockets", "decisions", "packs"] },
    ],
  },
  {
    standard: "ISO/IEC 27001:2022, Annex A",
    controls: [
      { number: "5.14", words: "How information is transferred", evidence: ["rules", "projects"] },
      { number: "5.15", words: "Rules for who gets access", evidence: ["rules", "waivers"] },
      {
        number: "5.18",
        words: "Access rights are granted, reviewed and removed",
        evidence: ["rounds", "changes", "leavers"],
      },
      { number: "8.3", words: "Access to information is restricted", evidence: ["rules", "changes"] },
      { number: "8.12", words: "Data doesn’t leak", evidence: ["watches", "alerts", "changes"] },
    ],
  },
  {
    standard: "CIS Controls v8",
    controls: [
      { number: "3.3", words: "Lists of who can access which data", evidence: ["readings", "rounds"] },
      { number: "5.3", words: "Dormant accounts are disabled", evidence: ["leavers", "directory"] },
      { number: "6.2", words: "A process for revoking access", evidence: ["dockets", "leavers"] },
      { number: "6.8", words: "Role-based access, reviewed each year", evidence: ["rounds", "accounts"] },
    ],
  },
  {
    standard: "PCI DSS v4",
    controls: [
      { number: "7.2.4", words: "All access is reviewed each half-year", evidence: ["rounds", "decisions", "looks"] },
      { number: "7.2.5", words: "Programs’ accounts have no more than they need", evidence: [] },
    ],
  },
  {
    standard: "GDPR",
    controls: [
      {
        number: "Art. 5(1)(f)",
        words: "Integrity and confidentiality",
        evidence: ["rules", "changes", "secondFactor"],
      },
      {
        number: "Art. 32",
        words: "Security of processing, tested regularly",
        evidence: ["rounds", "looks", "exports"],
      },
    ],
  },
];
