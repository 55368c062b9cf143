import Papa from "papaparse";
import { z } from "zod";
import { normaliseAddress } from "../estate/address";
import { isMailAddress } from "../estate/mailAddress";
import type { Problem } from "../estate/placed";
import { PERSON_STATES } from "../estate/records";
import { seconds, type Seconds } from "../time/instant";

/** The columns of a directory's list, as its first line names them. `docs/people.md` says what each means. */
export const LIST_COLUMNS = [
  ...(["address", "name", "status", "department", "manager", "last_day", "suspended_on", "groups"] as const),
];
type ListColumn = (typeof LIST_COLUMNS)[number];

/** What a list contains: everybody who is here, so that anybody missing has left; or only those who leave. */
export const LIST_KINDS = ["people", "leavers"] as const;
export type ListKind = (typeof LIST_KINDS)[number];

/** One person in a list. Undefined where the list has no such column, null where the cell is empty. */
export interface ListRow {
  line: number;
  address: string;
  name?: string | null;
  status?: (typeof PERSON_STATES)[number] | null;
  department?: string | null;
  /** The manager's address. */
  manager?: string | null;
  /** The last instant of that day. */
  lastDay?: Seconds | null;
  suspendedOn?: Seconds | null;
  groups?: string[];
}

/** A list as it was read. While it has problems, none of it may be used. */
export interface PeopleList {
  rows: ListRow[];
  problems: Problem[];
  /** Oddities that do no harm. */
  remarks: Problem[];
  /** Whether it has a column of groups; without one, it says nothing about them. */
  hasGroups: boolean;
}

/** How much of a cell a message repeats. */
const MOST_REPEATED = 60;

const day = z.iso.date("must be a day such as 2026-11-30");
const address = z.string().refine(isMailAddress, "must be an e-mail address");
const status = z.enum(PERSON_STATES, `must be one of ${PERSON_STATES.join(", ")}`);
/** What a cell must contain if it isn't empty. A column without an entry here takes any text. */
const SCHEMAS: Partial<Record<ListColumn, z.ZodType<string>>> = {
  address,
  status,
  manager: address,
  last_day: day,
  suspended_on: day,
};

/** Reads the cells of a list. Many lines have the same text, which is checked once. */
class Cells {
  private readonly seen = new Map<string, string | null>();

  /** What is wrong with a cell's text, or null. */
  problemOf(column: ListColumn, text: string): string | null {
    const schema = SCHEMAS[column];
    if (!schema) return null;
    const key = `${column} ${text}`;
    let problem = this.seen.get(key);
    if (problem === undefined) {
      const read = schema.safeParse(text);
      problem = read.success ? null : read.error.issues[0].message;
      if (column !== "address") this.seen.set(key, problem);
    }
    return problem;
  }
}

/**
 * Reads a list of people, or of leavers: CSV (RFC 4180) whose first line names its columns, of which `address` must be
 * there. Cells are separated by commas, semicolons or tabs, and groups within a cell by semicolons or bars.
 */
export function readPeopleList(file: string): PeopleList {
  const parsed = Papa.parse<string[]>(file.replace(/^\uFEFF/, ""), { delimitersToGuess: [",", ";", "\t"] });
  const [head = [], ...lines] = parsed.data;
  const columns = head.map((name) =>
    name
      .trim()
      .toLowerCase()
      .replace(/[\s-]+/g, "_"),
  );
  const problems: Problem[] = problemsOfHead(columns);
  const remarks: Problem[] = columns
    .filter((name) => name !== "" && !(LIST_COLUMNS as readonly string[]).includes(name))
    .map((name) => ({
      line: 1,
      message: `the column ${name.slice(0, MOST_REPEATED)} isn’t known and is ignored`,
    }));
  const rows: ListRow[] = [];
  const checked = new Cells();
  const known = columns.flatMap((name, at): [number, ListColumn][] => {
    const column = LIST_COLUMNS.find((one) => one === name);
    return column ? [[at, column]] : [];
  });
  if (problems.length === 0)
    for (const [i, line] of lines.entries())
      if (line.some((cell) => cell.trim() !== "")) {
        const row = rowFrom(known, line, i + 2, checked);
        if ("address" in row) rows.push(row);
        else problems.push(row);
      }
  if (problems.length === 0 && rows.length === 0) problems.push({ line: 2, message: "the list has nobody in it" });
  return { ...withoutDoubles(rows, remarks), problems, hasGroups: columns.includes("groups") };
}

function problemsOfHead(columns: readonly string[]): Problem[] {
  const doubled = columns.find((name, i) => name !== "" && columns.indexOf(name) !== i);
  if (!columns.includes("address"))
    return [
      {
        line: 1,
        message: `the first line must name the columns, with address among them (${LIST_COLUMNS.join(", ")})`,
      },
    ];
  return doubled === undefined ? [] : [{ line: 1, message: `the column ${doubled} is there twice` }];
}

/** @returns what is wrong with the line, if anything */
function rowFrom(
  columns: readonly [at: number, column: ListColumn][],
  line: readonly string[],
  number: number,
  checked: Cells,
): ListRow | Problem {
  const cell: Partial<Record<ListColumn, string | null>> = {};
  for (const [at, column] of columns) {
    const given = (line[at] ?? "").trim();
    const text = column === "status" ? given.toLowerCase() : given;
    const mayBeEmpty = column !== "address";
    const problem = text === "" && mayBeEmpty ? null : checked.problemOf(column, text);
    if (problem !== null)
      return { line: number, message: `${column} ${JSON.stringify(given.slice(0, MOST_REPEATED))} ${problem}` };
    cell[column] = text === "" && column !== "groups" ? null : text;
  }
  const instant = (day: string | null | undefined, time: string) => (day == null ? day : seconds(`${day}T${time}Z`));
  return {
    line: number,
    address: normaliseAddress(cell.address!),
    name: cell.name,
    status: cell.status as ListRow["status"],
    department: cell.department,
    manager: cell.manager == null ? cell.manager : normaliseAddress(cell.manager),
    lastDay: instant(cell.last_day, "23:59:59"),
    suspendedOn: instant(cell.suspended_on, "00:00:00"),
    groups: cell.groups?.split(/[;|]/).flatMap((name) => name.trim() || []),
  };
}

/** If an address occurs twice, the first line counts. */
function withoutDoubles(rows: readonly ListRow[], remarks: readonly Problem[]) {
  const lines = new Map<string, number>();
  const doubled: Problem[] = [];
  const once = rows.filter(({ address, line }) => {
    const before = lines.get(address);
    if (before === undefined) lines.set(address, line);
    else doubled.push({ line, message: `${address} is already on line ${before}; that line counts` });
    return before === undefined;
  });
  return { rows: once, remarks: [...remarks, ...doubled] };
}
