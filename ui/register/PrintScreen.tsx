"use client";

import { useQuery } from "@tanstack/react-query";
import { registerOperations } from "@/contract/register";
import { parseOrder, printOrder } from "@/core/query/order";
import type { RegisterRow } from "@/core/register/columns";
import { useSearchParams } from "next/navigation";
import { useMemo } from "react";
import { asOf, useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { datesIn } from "../parts/dates";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { COLUMNS, FIRST_COLUMNS } from "./columns";

const MOST = 1_000;
const PIECE = 500;
const SHOWN = COLUMNS.filter(({ id }) => FIRST_COLUMNS.includes(id));

/** The shares that a query finds as a plain table, to be put on paper. */
export function PrintScreen() {
  const own = useDates();
  // What is printed is kept, and shown to others.
  const dates = useMemo(() => datesIn({ ...own.settings, zone: "UTC" }), [own]);
  const { past, now } = useStandpoint();
  const parameters = useSearchParams();
  const query = parameters.get("q") ?? "";
  const order = printOrder(parseOrder(parameters.get("sort") ?? "risk") ?? [{ by: "risk", reversed: false }]);
  const { data, error } = useQuery({
    queryKey: [...keyOf(registerOperations.registerPage), "print", query, order, past],
    queryFn: ({ signal }) => firstRows(query, order, past, signal),
  });
  return (
    <div className="h-full overflow-y-auto bg-raised p-6">
      <div className="flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">Shares</h1>
        <code className="font-mono">{query}</code>
        <Link
          href={asOf(`/register?${new URLSearchParams({ q: query, sort: order })}`, past)}
          className="on-paper-none text-verdigris underline"
        >
          Back to the register
        </Link>
        <span className="grow" />
        <PrintButton />
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <>
          <p className="mt-1 text-ink-soft">
            {countWords(data.found, "share")}
            {data.found > MOST && `(the first ${MOST.toLocaleString("en-GB")})`}, as of {dates.zoned(now)}.
          </p>
          <table className="mt-4 w-full border-collapse text-left">
            <thead>
              <tr className="border-b border-line-strong text-[12px] text-ink-faint">
                {SHOWN.map(({ id, title }) => (
                  <th key={id} className="py-1 pr-3 font-semibold">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <tr key={row.id} className="break-inside-avoid border-b border-line align-top">
                  {SHOWN.map(({ id, cell }) => {
                    const { first, second } = cell(row, now, dates);
                    return (
                      <td key={id} className="py-1 pr-3 tabular-nums">
                        {first}
                        {second && <span className="block text-[12px] text-ink-faint">{second}</span>}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}

async function firstRows(query: string, order: string, past: string | null, signal: AbortSignal) {
  const rows: RegisterRow[] = [];
  let found = 0;
  for (let from = 0; from < MOST; from += PIECE) {
    const answer = await ask(registerOperations.registerPage, {
      query: { query, order, from, count: PIECE },
      past,
      signal,
    });
    found = answer.found;
    rows.push(...answer.page.flatMap((line) => (line.kind === "share" ? [line.row] : [])));
    if (answer.page.length < PIECE) break;
  }
  return { rows, found };
}
