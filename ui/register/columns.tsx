import type { ReactNode } from "react";
import type { Sort } from "@/core/query/match";
import type { RegisterRow } from "@/core/register/row";
import { NEVER, type Seconds } from "@/core/time/instant";
import { LatchMarks } from "../parts/LatchMarks";
import { RiskMark } from "../parts/RiskMark";
import { dayWords, distanceWords, endWords } from "../parts/words";

interface Column {
  title: string;
  /** A track of the grid. */
  width: string;
  sort?: Sort;
  cell: (row: RegisterRow, now: Seconds) => ReactNode;
}

function TwoLines({ first, second }: { first: ReactNode; second?: ReactNode }) {
  return (
    <span className="block min-w-0">
      <span className="block truncate">{first}</span>
      {second && <span className="block truncate text-[12px] text-ink-faint">{second}</span>}
    </span>
  );
}

const STATE_WORDS: Record<RegisterRow["state"], string> = {
  live: "",
  waiting: "not begun yet",
  spent: "ended or used up",
  broken: "target is gone",
};

export const COLUMNS: Column[] = [
  { title: "Risk", width: "80px", sort: "risk", cell: (row) => <RiskMark risk={row.risk} /> },
  {
    title: "Item",
    width: "minmax(120px, 1.4fr)",
    sort: "item",
    cell: (row) => <TwoLines first={row.itemName} second={[row.storeName, ...row.place].join(" / ")} />,
  },
  { title: "Latches", width: "74px", cell: (row) => <LatchMarks latches={row.latches} /> },
  {
    title: "For whom",
    width: "minmax(102px, 1fr)",
    sort: "for",
    cell: (row) => <TwoLines first={row.audience} second={STATE_WORDS[row.state]} />,
  },
  { title: "May", width: "80px", cell: (row) => <TwoLines first={row.role} second={row.label} /> },
  {
    title: "Ends",
    width: "100px",
    sort: "ends",
    cell: (row, now) => (
      <TwoLines
        first={endWords(row.expires)}
        second={row.expires === NEVER ? undefined : distanceWords(row.expires, now)}
      />
    ),
  },
  {
    title: "Last used",
    width: "100px",
    sort: "used",
    cell: (row, now) => {
      if (row.lastUsed === null) return "never";
      // A past day can be older than the last use that its store told of.
      if (row.lastUsed > now) return "used later";
      return <TwoLines first={dayWords(row.lastUsed)} second={distanceWords(row.lastUsed, now)} />;
    },
  },
  {
    title: "Made by",
    width: "112px",
    sort: "made",
    cell: (row) => <TwoLines first={row.maker || "unknown"} second={dayWords(row.made)} />,
  },
];

export const TRACKS = ["36px", ...COLUMNS.map((column) => column.width)].join(" ");
