"use client";

import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "next/navigation";
import { addressOf } from "@/contract/address";
import { reportsOperations } from "@/contract/reports";
import { leftWords, type ReportKind, REPORT_WORDS, type ReportSection } from "@/core/evidence/report";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { ReportFigure } from "./ReportFigure";

/** What a report is asked with, as it stands in the page's address. */
type Query = Record<"kind" | "day" | "about" | "round" | "from" | "to", string | undefined> & { kind: string };

/** A report as a page: the same as its PDF. */
export function ReportScreen({ kind }: { kind: ReportKind }) {
  const parameters = useSearchParams();
  const get = (name: string) => parameters.get(name) ?? undefined;
  const query: Query = {
    kind,
    ...{ day: get("day"), about: get("about"), round: get("round"), from: get("from"), to: get("to") },
  };
  // What is told of a past day can still change: the stores may tell more of it.
  const { data, error } = useQuery({ ...asked(reportsOperations.report, { query }), retry: false });
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={!data && !error}>
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href="/ledger" className="underline">
          Ledger
        </Link>{" "}
        /{" "}
        <Link href="/ledger/reports" className="underline">
          Reports
        </Link>{" "}
        / {REPORT_WORDS[kind].title}
      </nav>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && (
        <article className="max-w-5xl">
          <div className="mt-2 flex items-start justify-between gap-6">
            <h1 className="text-[22px] font-semibold">{data.title}</h1>
            <a
              href={addressOf(reportsOperations.reportPdf, { query })}
              download
              className="mt-1.5 shrink-0 text-verdigris underline"
            >
              Save as PDF
            </a>
          </div>
          <p className="max-w-prose text-ink-soft">{data.words}</p>
          {data.sections.map((section, i) => (
            <Section key={i} section={section} place={i} query={query} />
          ))}
        </article>
      )}
    </div>
  );
}

function Section({ section, place, query }: { section: ReportSection; place: number; query: Query }) {
  const { title, words, chart, table } = section;
  const hasRows = table !== undefined && table.rows.length > 0;
  return (
    <section className="mt-7">
      <div className="flex items-baseline justify-between gap-6">
        <h2 className="text-[16px] font-semibold">{title}</h2>
        {hasRows && (
          <a
            href={addressOf(reportsOperations.reportTable, { query: { ...query, section: String(place) } })}
            download
            className="shrink-0 text-[12.5px] text-verdigris underline"
          >
            CSV<span className="sr-only"> of {title}</span>
          </a>
        )}
      </div>
      {words && <p className="max-w-prose text-ink-soft">{words}</p>}
      {chart && <ReportFigure chart={chart} title={title} />}
      {hasRows && <Table table={table} title={title} />}
    </section>
  );
}

function Table({ table, title }: { table: NonNullable<ReportSection["table"]>; title: string }) {
  const { heads, rows, figures } = table;
  const side = (column: number) => (figures.includes(column) ? "text-right tabular-nums" : "text-left");
  return (
    <div className="mt-2 overflow-x-auto">
      <table className="w-full" aria-label={title}>
        <thead className="text-[12px] text-ink-faint">
          <tr>
            {heads.map((head, i) => (
              <th key={i} className={`px-2 py-1 font-semibold first:pl-0 last:pr-0 ${side(i)}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i} className="border-t border-line align-top">
              {row.map((text, column) => (
                <td key={column} className={`px-2 py-1.5 wrap-anywhere first:pl-0 last:pr-0 ${side(column)}`}>
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {table.left > 0 && <p className="mt-1 text-[12.5px] text-ink-faint">{leftWords(table)}</p>}
    </div>
  );
}
