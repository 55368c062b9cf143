/** What a report can be about. */
export const REPORT_KINDS = ["state", "open", "reach", "round", "taken", "controls"] as const;
export type ReportKind = (typeof REPORT_KINDS)[number];

/** The title of each, and the question that it answers. */
export const REPORT_WORDS: Record<ReportKind, { title: string; about: string }> = {
  state: {
    title: "State of sharing outside",
    about: "How much was open on a day, how that has changed, what was done about it, and what is overdue.",
  },
  open: {
    title: "What is open to anyone",
    about: "Every link anyone can use, with its reason and who is responsible.",
  },
  reach: {
    title: "Who could reach it on a day",
    about: "Everybody who could reach an item and how, or everything a person or an organisation could reach.",
  },
  round: {
    title: "A round",
    about: "Who was asked what, what they decided and how carefully, and what was done.",
  },
  taken: {
    title: "What was taken while it was open",
    about:
      "For a share, an item or a person: when it was open, every visit and download, and what nobody can know. " +
      "It covers what has to be reported within 72 hours of a breach (GDPR, Art. 33).",
  },
  controls: {
    title: "Controls",
    about: "What evidence is held here for the controls of published standards, and where there is none.",
  },
};

/** A table with a text in each cell. */
export interface ReportTable {
  heads: string[];
  rows: string[][];
  /** Columns of figures, by their place: they are set flush right. */
  figures: number[];
  /** How many rows there are besides those that are shown. */
  left: number;
}

/** How some figures went, over the same points. */
export interface ReportChart {
  labels: string[];
  lines: { name: string; values: number[] }[];
}

export interface ReportSection {
  title: string;
  words: string;
  chart?: ReportChart;
  table?: ReportTable;
}

/** A paragraph for readers who weren't involved. */
export interface Report {
  title: string;
  words: string;
  sections: ReportSection[];
}

/** A table as a report begins with it: whole. @param figures columns of figures, by their place */
export function tableOf(heads: string[], rows: string[][], figures: number[] = []): ReportTable {
  return { heads, rows, figures, left: 0 };
}

/** The same report with at most so many rows in each table. */
export function shortened(report: Report, most: number): Report {
  const sections = report.sections.map(({ table, ...section }) => ({
    ...section,
    ...(table && { table: { ...table, rows: table.rows.slice(0, most), left: Math.max(0, table.rows.length - most) } }),
  }));
  return { ...report, sections };
}

/** The note under a shortened table; empty under a whole one. */
export function leftWords({ left, rows }: ReportTable): string {
  return left === 0
    ? ""
    : `The first ${rows.length.toLocaleString("en-GB")} rows; ${left.toLocaleString("en-GB")} more are in the table’s CSV.`;
}

/** What a report is about: an item, a share, a person or an organisation, each by its id. */
export const SUBJECT_KINDS = ["item", "share", "person", "organisation"] as const;
export interface ReportSubject {
  kind: (typeof SUBJECT_KINDS)[number];
  id: string;
}

/** Reads `item:ID` and the like; null where it is none. */
export function parseSubject(text: string): ReportSubject | null {
  const colon = text.indexOf(":");
  const kind = SUBJECT_KINDS.find((one) => one === text.slice(0, colon));
  const id = text.slice(colon + 1);
  return kind === undefined || id === "" ? null : { kind, id };
}

export function printSubject({ kind, id }: ReportSubject): string {
  return `${kind}:${id}`;
}
