import type { ReactNode } from "react";
import type { Sort } from "@/core/query/order";
import { COLUMN_NAMES, columnOf, type RegisterRow } from "@/core/register/columns";
import { RULES } from "@/core/rules/list";
import { NEVER, type Seconds } from "@/core/time/instant";
import { LatchMarks } from "../parts/LatchMarks";
import { RiskMark } from "../parts/RiskMark";
import type { Dates } from "../parts/dates";
import { countWords } from "../parts/words";

export interface Column {
  id: string;
  title: string;
  /** In pixels. */
  width: number;
  /** Takes what room is left over. */
  grows?: true;
  sort?: Sort;
  /** The first line, and under it a second one where rows have room for two. */
  cell: (row: RegisterRow, now: Seconds, dates: Dates) => { first: ReactNode; second?: ReactNode };
}

const STATE_WORDS: Record<RegisterRow["state"], string> = {
  live: "",
  waiting: "not open yet",
  spent: "expired or used up",
  broken: "target deleted",
  revoked: "revoked",
};

/** What the screen has cells of its own for. */
const OWN: Column[] = [
  { id: "risk", title: "Risk", width: 76, sort: "risk", cell: (row) => ({ first: <RiskMark risk={row.risk} /> }) },
  {
    id: "item",
    title: "Item",
    width: 150,
    grows: true,
    sort: "item",
    cell: (row) => ({ first: row.itemName, second: [row.storeName, ...row.place].join(" / ") }),
  },
  { id: "latches", title: "Latches", width: 74, cell: (row) => ({ first: <LatchMarks latches={row.latches} /> }) },
  {
    id: "for",
    title: "Audience",
    width: 120,
    grows: true,
    sort: "for",
    cell: (row) => ({ first: row.audience, second: STATE_WORDS[row.state] }),
  },
  { id: "may", title: "Role", width: 76, sort: "role", cell: (row) => ({ first: row.role, second: row.label }) },
  {
    id: "ends",
    title: "Ends",
    width: 112,
    sort: "ends",
    cell: (row, now, dates) =>
      row.state === "revoked" && row.ended !== null
        ? { first: dates.day(row.ended), second: row.endedBy ? `revoked by ${row.endedBy}` : "revoked" }
        : {
            first: dates.end(row.expires),
            second: row.expires === NEVER ? undefined : dates.distance(row.expires, now),
          },
  },
  {
    id: "used",
    title: "Last used",
    width: 112,
    sort: "used",
    cell: (row, now, dates) => {
      // A past day can be older than the last use that its store told of.
      if (!row.isUseKnown) return { first: "unknown", second: "used later" };
      if (row.lastUsed === null) return { first: "never" };
      return { first: dates.day(row.lastUsed), second: dates.distance(row.lastUsed, now) };
    },
  },
  {
    id: "made",
    title: "Made",
    width: 106,
    sort: "made",
    cell: (row, _, dates) => ({ first: dates.day(row.made), second: row.maker || "by somebody unknown" }),
  },
  {
    id: "findings",
    title: "Findings",
    width: 150,
    sort: "findings",
    cell: (row) => ({
      first: row.rules.length === 0 ? "none" : countWords(row.rules.length, "finding"),
      second: row.rules.map((rule) => RULES[rule].title).join("; "),
    }),
  },
  {
    id: "maker",
    title: "Made by",
    width: 112,
    sort: "maker",
    cell: (row) => ({ first: row.maker || "unknown", second: row.department ?? undefined }),
  },
];

/** Columns of the register that say themselves how they are shown; hidden until somebody chooses them. */
const PLAIN = COLUMN_NAMES.flatMap((id): Column[] => {
  const { shown } = columnOf(id);
  if (!shown) return [];
  const { title, width, text } = shown;
  return [{ id, title, width, cell: (row) => ({ first: text(row[id]) }) }];
});

export const COLUMNS: Column[] = [...OWN, ...PLAIN];

const HIDDEN = new Set(["findings", "maker", ...PLAIN.map(({ id }) => id)]);
/** What is shown until somebody chooses: all but what stands under another column's first line. */
export const FIRST_COLUMNS = COLUMNS.map(({ id }) => id).filter((id) => !HIDDEN.has(id));
