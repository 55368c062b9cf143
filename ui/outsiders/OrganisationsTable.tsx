import clsx from "clsx";
import type { ReactNode } from "react";
import { LABELS } from "@/core/estate/records";
import type { Organisation, OrganisationColumn } from "@/core/outsiders/organisations";
import { asOf } from "../frame/viewer";
import { Link } from "../parts/Link";
import { ROW_TABLE } from "../parts/rowTable";
import { RiskMark } from "../parts/RiskMark";
import { SortHead } from "../parts/SortHead";
import { type Dates } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { nameOf, organisationAt, STANCE_WORDS } from "./words";

interface Column {
  column: OrganisationColumn;
  head: string;
  /** What the head means, where it is too short to say it. */
  title?: string;
  isNumber?: boolean;
  cell: (one: Organisation, dates: Dates) => ReactNode;
}

const [CONFIDENTIAL, RESTRICTED] = [LABELS.indexOf("confidential"), LABELS.indexOf("restricted")];
const number = (count: number) =>
  count === 0 ? <span className="text-ink-faint">0</span> : count.toLocaleString("en-GB");

const COLUMNS: readonly Column[] = [
  { column: "stance", head: "Stance", cell: ({ stance }) => stance && STANCE_WORDS[stance] },
  { column: "people", head: "People", isNumber: true, cell: ({ people }) => number(people) },
  { column: "files", head: "Files", isNumber: true, cell: ({ files }) => number(files) },
  { column: "folders", head: "Folders", isNumber: true, cell: ({ folders }) => number(folders) },
  {
    ...{ column: "sensitive", head: "Sensitive", title: "Restricted and confidential items", isNumber: true },
    cell: ({ labels }) => number(labels[RESTRICTED] + labels[CONFIDENTIAL]),
  },
  { column: "shares", head: "Shares", isNumber: true, cell: ({ shares }) => number(shares) },
  {
    ...{ column: "makers", head: "Given access by", title: "How many people made these shares", isNumber: true },
    cell: ({ makers }) => number(makers),
  },
  { column: "since", head: "Since", cell: ({ since }, dates) => since !== null && dates.day(since) },
  {
    column: "lastUsed",
    head: "Last used",
    title: "When anybody last used one of these shares",
    cell: ({ lastUsed }, dates) =>
      lastUsed === null ? <span className="text-ink-faint">not known</span> : dates.day(lastUsed),
  },
  { column: "engagements", head: "Projects", isNumber: true, cell: ({ engagements }) => number(engagements) },
  { column: "findings", head: "Findings", isNumber: true, cell: ({ findings }) => number(findings) },
  { column: "risk", head: "Highest risk", cell: ({ risk }) => <RiskMark risk={risk} /> },
];

interface Props {
  page: readonly Organisation[];
  by: OrganisationColumn;
  reversed: boolean;
  past: string | null;
  onSort: (column: OrganisationColumn) => void;
}

export function OrganisationsTable({ page, by, reversed, past, onSort }: Props) {
  const dates = useDates();
  const head = (column: OrganisationColumn, words: string, title?: string) => (
    <SortHead
      {...{ words, title, isBy: column === by, isRising: (column === "domain") !== reversed }}
      onSort={() => onSort(column)}
    />
  );
  return (
    <table {...ROW_TABLE} className="w-full min-w-[1080px]">
      <thead className="sticky top-0 z-10 bg-raised text-left text-[12px] text-ink-faint">
        <tr>
          <th aria-sort={sortOf("domain", by, reversed)} className="w-[22%] py-1 pr-3">
            {head("domain", "Organisation")}
          </th>
          {COLUMNS.map(({ column, head: words, title, isNumber }) => (
            <th
              key={column}
              aria-sort={sortOf(column, by, reversed)}
              className={clsx("px-2 py-1", isNumber && "text-right")}
            >
              {head(column, words, title)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {page.map((one) => (
          <tr key={one.domain} className="border-t border-line hover:bg-surface">
            <th scope="row" className="py-1.5 pr-3 text-left font-normal">
              <Link href={asOf(organisationAt(one.domain), past)} className="text-verdigris underline wrap-anywhere">
                <span className={clsx(one.domain && "font-mono text-[13px]")}>{nameOf(one.domain)}</span>
              </Link>
            </th>
            {COLUMNS.map(({ column, isNumber, cell }) => (
              <td
                key={column}
                className={clsx(
                  "px-2 whitespace-nowrap tabular-nums",
                  isNumber && "text-right",
                  column === "stance" && one.stance === "denied" && "font-semibold text-oxide",
                )}
              >
                {cell(one, dates)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function sortOf(column: OrganisationColumn, by: OrganisationColumn, reversed: boolean) {
  if (column !== by) return undefined;
  return (column === "domain") !== reversed ? "ascending" : "descending";
}
