"use client";

import { shownName } from "@/core/text/shown";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { importsOperations } from "@/contract/imports";
import type { AnswerOf } from "@/contract/operation";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

type Told = AnswerOf<typeof importsOperations.imports>;

export function ImportsScreen() {
  return useStandpoint().past === null ? <ImportsNow /> : <OfNow />;
}

/** Which reports have been imported, and how reports of each store are read. */
function ImportsNow() {
  const { viewer } = useStandpoint();
  const { data, error } = useQuery(asked(importsOperations.imports));
  return (
    <div className="relative h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <div className="flex items-center gap-4">
        <h1 className="text-[20px] font-semibold">Imports</h1>
        {viewer.mayChange && (
          <Link
            href="/estate/imports/new"
            className="flex h-[30px] items-center rounded-[3px] border border-verdigris bg-verdigris px-3 font-semibold text-on-verdigris"
          >
            Import a report…
          </Link>
        )}
      </div>
      <p className="max-w-prose text-ink-soft">
        A store that can’t be read directly can export who has access to what. Each report stands for all of its store:
        what it no longer names has ended.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading />}
      {data && <Runs runs={data.runs} />}
      {data && data.mappings.length > 0 && <Mappings mappings={data.mappings} mayChange={viewer.mayChange} />}
    </div>
  );
}

function Runs({ runs }: Pick<Told, "runs">) {
  const dates = useDates();
  if (runs.length === 0) return <Notice>No report has been imported yet.</Notice>;
  return (
    <table className="mt-3 w-full max-w-5xl">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="w-44 py-1 pr-3 font-semibold">When</th>
          <th className="px-3 font-semibold">Report</th>
          <th className="px-3 font-semibold">Read as</th>
          <th className="px-3 font-semibold">What came of it</th>
          <th className="px-3 font-semibold">By</th>
        </tr>
      </thead>
      <tbody>
        {runs.map((run) => (
          <tr key={run.id} className="border-t border-line align-baseline">
            <td className="py-1.5 pr-3">{dates.moment(run.at)}</td>
            <td className="px-3 wrap-anywhere">{run.file}</td>
            <td className="px-3">{run.mapping}</td>
            <td className="px-3">{outcome(run)}</td>
            <td className="px-3 wrap-anywhere text-ink-soft">{run.by}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function outcome({ state, rows, skipped, changed, ended }: Told["runs"][number]): string {
  if (state === "going") return "is being imported";
  const parts = [
    countWords(rows, "row"),
    ...(skipped > 0 ? [`${skipped.toLocaleString("en-GB")} skipped`] : []),
    `${countWords(changed, "record")} new or changed`,
    `${countWords(ended, "share")} ended`,
  ];
  return `${state === "stopped" ? "Stopped: " : ""}${parts.join(", ")}`;
}

function Mappings({ mappings, mayChange }: Pick<Told, "mappings"> & { mayChange: boolean }) {
  const dates = useDates();
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: (name: string) => ask(importsOperations.removeMapping, { params: { name } }),
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(importsOperations.imports) }),
  });
  return (
    <section aria-labelledby="mappings" className="mt-6 max-w-5xl">
      <h2 id="mappings" className="text-[17px] font-semibold">
        How reports are read
      </h2>
      {remove.error && <Notice tone="wrong">{remove.error.message}</Notice>}
      <ul className="mt-1">
        {mappings.map(({ name, title, mapping, savedBy, savedAt }) => (
          <li key={name} className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-1.5">
            <span className="w-44 shrink-0 font-semibold">{title}</span>
            <span className="min-w-0 grow wrap-anywhere">
              {Object.values(mapping.columns).map(shownName).join(", ")}
              <span className="block text-[12px] text-ink-faint">
                {name}, saved by {savedBy} on {dates.day(savedAt)}
              </span>
            </span>
            {mayChange && (
              <Button aria-label={`Remove the mapping ${name}`} onClick={() => remove.mutate(name)}>
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
