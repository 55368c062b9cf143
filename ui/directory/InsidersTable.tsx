import type { SourceTold } from "@/contract/directory";
import type { Insider, InsiderColumn } from "@/core/directory/insiders";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { ROW_TABLE } from "../parts/rowTable";
import { SortHead } from "../parts/SortHead";
import { useDates } from "../parts/useDates";
import { listWords } from "../parts/words";
import { sourceTitle } from "./words";

const HEADS: readonly [InsiderColumn, string][] = [
  ["name", "Name"],
  ["status", "Status"],
  ["department", "Department"],
  ["manager", "Manager"],
  ["lastDay", "Last day"],
  ["sources", "Source"],
];

interface Props {
  page: readonly Insider[];
  by: InsiderColumn;
  reversed: boolean;
  sources: readonly SourceTold[] | undefined;
  onSort: (column: InsiderColumn) => void;
}

export function InsidersTable({ page, by, reversed, sources, onSort }: Props) {
  const { past } = useStandpoint();
  const dates = useDates();
  return (
    <table {...ROW_TABLE} className="w-full min-w-[920px]">
      <thead className="sticky top-0 z-10 bg-raised text-left text-[12px] text-ink-faint">
        <tr>
          {HEADS.map(([column, words]) => (
            <th
              key={column}
              aria-sort={column === by ? (reversed ? "descending" : "ascending") : undefined}
              className="px-2 py-1 first:pl-0"
            >
              <SortHead {...{ words, isBy: column === by, isRising: !reversed }} onSort={() => onSort(column)} />
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {page.map(({ address, name, status, department, manager, lastDay, sources: told }) => (
          <tr key={address} className="border-t border-line hover:bg-surface">
            <th scope="row" className="py-1.5 pr-2 text-left font-normal">
              <Link
                href={asOf(`/people/person?address=${encodeURIComponent(address)}`, past)}
                className="text-verdigris underline"
              >
                {name}
              </Link>
              {name !== address && <span className="block font-mono text-[12px] text-ink-faint">{address}</span>}
            </th>
            <td className="px-2">{status === "active" ? "active" : <b className="font-semibold">{status}</b>}</td>
            <td className="px-2">{department ?? <span className="text-ink-faint">none</span>}</td>
            <td className="px-2">{manager ?? <span className="text-ink-faint">none</span>}</td>
            <td className="px-2 whitespace-nowrap">{lastDay !== null && dates.day(lastDay)}</td>
            <td className="px-2">
              {told.length === 0 ? (
                <span className="text-ink-faint">nobody</span>
              ) : (
                listWords(told.map((one) => sourceTitle(one, sources)))
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
