import { shownName } from "../text/shown";
import { isMailAddress } from "../estate/mailAddress";
import { readDate } from "./dates";
import { type ChoiceField, DATE_FIELDS, type Field, FIELDS, isChoiceField, plainText } from "./field";
import type { Rows } from "./file";
import { columnsOf, type Headings } from "./headings";
import type { Mapping, Values } from "./mapping";
import { HEADINGS, proposedMeaning } from "./words";

/** A column that is proposed for a field, and why. */
export interface Proposal {
  column: string;
  why: string;
}

/** What a column's values look like, as percentages of those that aren't empty. */
interface Looks {
  address: number;
  path: number;
  date: number;
  url: number;
}

const [LEAST_LIKE, HEADING_SCORE] = [80, 100];

/** By field: the column proposed for it, by its heading or its values. */
export function proposeColumns(rows: Rows, headings: Headings): Partial<Record<Field, Proposal>> {
  const columns = columnsOf(rows, headings);
  const data = rows.slice(headings.headingRow - 1 + headings.headingRows);
  const looks = columns.map((_, column) => looksOf(data.map((row) => row[column] ?? "")));
  const all = columns.flatMap((column, at) =>
    FIELDS.flatMap((field) => {
      const found = scoreOf(field, column, looks[at]);
      return found ? [{ field, column, ...found }] : [];
    }),
  );
  const proposals: Partial<Record<Field, Proposal>> = {};
  const taken = new Set<string>();
  for (const { field, column, why } of all.sort((a, b) => b.score - a.score))
    if (!proposals[field] && !taken.has(column)) {
      proposals[field] = { column, why };
      taken.add(column);
    }
  return proposals;
}

function looksOf(values: string[]): Looks {
  const told = values.map((value) => value.trim()).filter((value) => value !== "");
  const like = (is: (value: string) => boolean) =>
    told.length === 0 ? 0 : Math.round((told.filter(is).length / told.length) * 100);
  return {
    address: like((value) =>
      value
        .split(/[;,\s]+/)
        .filter(Boolean)
        .every((one) => isMailAddress(one) && one.includes("@")),
    ),
    path: like((value) => /[^\s/\\][/\\][^/\\]|^[/\\]/.test(value) && !value.includes("://")),
    date: like((value) => /\d/.test(value) && isDate(value)),
    url: like((value) => /^https?:\/\//.test(value)),
  };
}

function isDate(value: string): boolean {
  return (["day first", "month first"] as const).some((order) => {
    const date = readDate(value, order, "UTC");
    return date !== null && !("problem" in date);
  });
}

const LIKE: Partial<Record<Field, [keyof Looks, string]>> = {
  path: ["path", "are paths"],
  audience: ["address", "are e-mail addresses"],
  url: ["url", "are web addresses"],
};
/** Fields that need values of a certain kind: a column of expiries without dates is something else. */
const MUST: Partial<Record<Field, keyof Looks>> = Object.fromEntries(DATE_FIELDS.map((field) => [field, "date"]));

function scoreOf(field: Field, column: string, looks: Looks): { score: number; why: string } | null {
  const heading = plainText(column);
  const own = heading.includes(": ") ? [heading, heading.slice(heading.lastIndexOf(": ") + 2)] : [heading];
  const rank = HEADINGS[field].findIndex((words) => own.some((text) => words.test(text)));
  const must = MUST[field];
  const like = LIKE[field];
  const likeness = like ? looks[like[0]] : 0;
  if (field === "url" && rank >= 0 && likeness < LEAST_LIKE) return null;
  if (rank >= 0 && !(must && looks[must] > 0 && looks[must] < 20))
    return { score: HEADING_SCORE - rank * 5 + likeness / 4, why: `its heading says “${shownName(column)}”` };
  if (like && likeness >= LEAST_LIKE) return { score: likeness / 2, why: `${likeness}% of its values ${like[1]}` };
  return null;
}

/** How many different texts of a column can be mapped one by one. */
export const MOST_TEXTS = 200;

/** Texts of a choice column, with how many rows have each, the most frequent first. */
export function textsOf(rows: Rows, columns: readonly string[], { headingRow, headingRows }: Headings, column: string) {
  const at = columns.indexOf(column);
  const counts = new Map<string, number>();
  for (const row of rows.slice(headingRow - 1 + headingRows)) {
    const text = plainText(row[at] ?? "");
    if (row.some((cell) => cell.trim() !== "")) counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).slice(0, MOST_TEXTS);
}

/** What the texts of a mapped column mean, as far as words for them are known. */
export function proposeValues(field: ChoiceField, texts: Iterable<string>, heading: string): Record<string, string> {
  const proposed: Record<string, string> = {};
  for (const text of texts) {
    // An address isn't a value to be mapped.
    if (field === "audience" && (isMailAddress(text) || text.includes("@"))) continue;
    const meaning = proposedMeaning(field, text, heading);
    if (meaning !== undefined) proposed[text] = meaning;
  }
  return proposed;
}

/** A whole mapping for a report that nobody has mapped yet. */
export function proposeMapping(rows: Rows, headings: Headings, file: FileShape): Mapping {
  const names = columnsOf(rows, headings);
  const proposals = proposeColumns(rows, headings);
  const columns = Object.fromEntries(Object.entries(proposals).map(([field, { column }]) => [field, column]));
  const values: Values = {};
  for (const field of FIELDS)
    if (isChoiceField(field) && columns[field] !== undefined) {
      const texts = textsOf(rows, names, headings, columns[field]).map(([text]) => text);
      (values as Record<string, unknown>)[field] = proposeValues(field, texts, columns[field]);
    }
  return {
    ...file,
    ...headings,
    columns,
    values,
    dateOrder: "by the rows",
    repeatsAbove: repeatsAbove(rows, names, headings, columns),
    roleOtherwise: "view",
  };
}
export type FileShape = Pick<Mapping, "encoding" | "separator" | "sheet" | "zone">;

/** Whether there are rows that have a share but leave the item's cells empty, meaning the item above. */
function repeatsAbove(
  rows: Rows,
  names: readonly string[],
  { headingRow, headingRows }: Headings,
  { path, name, item, audience, role }: Partial<Record<Field, string>>,
): boolean {
  const place = names.indexOf(path ?? item ?? name ?? "");
  const told = [audience, role].map((one) => names.indexOf(one ?? ""));
  return rows
    .slice(headingRow - 1 + headingRows)
    .some((row, i) => i > 0 && (row[place] ?? "").trim() === "" && told.some((at) => (row[at] ?? "").trim() !== ""));
}
