import { type Field, type Fields, NONE } from "./fields";

/** Something that could stand in place of what is being typed. */
export interface Completion {
  insert: string;
  help: string;
}

/** What the part of a query from `from` to the caret could become. */
export interface Completions {
  from: number;
  options: Completion[];
  /** Where the values are those of the data: what to ask for. */
  field?: string;
  typed?: string;
}

/** A term as far as it is typed: a minus, a field, values that are whole, and the one that is not. */
const TERM_SO_FAR = /(?:^|\s)-?(?:([a-z]+):(?:(?:"(?:[^"\\]|\\.)*"|[^\s",]+),)*)?("(?:[^"\\]|\\.)*|[^\s",]*)$/i;
const MOMENTS: Completion[] = [
  { insert: "<7d", help: "less than 7 days" },
  { insert: ">45d", help: "more than 45 days" },
  { insert: "never", help: "never" },
];
const COUNTS: Completion[] = [
  { insert: ">5", help: "more than 5" },
  { insert: "0", help: "none" },
];

/** What the term at the caret could go on to be. @param fields of the list that is asked */
export function completionsAt(text: string, caret: number, fields: Fields): Completions {
  const match = TERM_SO_FAR.exec(text.slice(0, caret));
  const typed = match?.[2] ?? "";
  const from = caret - typed.length;
  if (!match) return { from: caret, options: [] };
  const name = match[1]?.toLowerCase();
  if (name === undefined) return { from, options: fieldsLike(typed, fields) };
  if (!Object.hasOwn(fields, name)) return { from, options: [] };
  const field: Field = fields[name];
  if (field.kind === "moment") return { from, options: like(MOMENTS, typed) };
  if (field.kind === "count") return { from, options: like(COUNTS, typed) };
  const none = { insert: NONE, help: "no value" };
  if (field.values)
    return { from, options: like([...field.values.map((insert) => ({ insert, help: "" })), none], typed) };
  return { from, options: [], field: name, typed: typed.replace(/^"/, "") };
}

function fieldsLike(typed: string, fields: Fields): Completion[] {
  if (typed === "") return [];
  return like(
    Object.entries(fields).map(([name, { help }]) => ({ insert: `${name}:`, help })),
    typed,
  );
}

function like(options: readonly Completion[], typed: string): Completion[] {
  return options.filter(({ insert }) => insert.startsWith(typed.toLowerCase()) && insert !== typed);
}
