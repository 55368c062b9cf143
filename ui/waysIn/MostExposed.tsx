"use client";

import { useQuery } from "@tanstack/react-query";
import { registerOperations } from "@/contract/register";
import { asked } from "../parts/ask";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { RiskMark } from "../parts/RiskMark";
import { countWords } from "../parts/words";
import { useStandpoint } from "../frame/viewer";
import type { Subject } from "../parts/Finder";

const MOST = 10;

/** Where to begin when nothing is asked yet: the riskiest items that are shared outside, and who reaches most. */
export function MostExposed({ onPick }: { onPick: (subject: Subject) => void }) {
  const { past } = useStandpoint();
  const query = { query: "outside:yes", order: "risk", groups: "risk" as const, count: MOST };
  const items = useQuery(asked(registerOperations.registerPage, { query: { ...query, group: "item" }, past }));
  const firms = useQuery(
    asked(registerOperations.registerPage, { query: { ...query, group: "organisation", groups: "count" }, past }),
  );
  const error = items.error ?? firms.error;
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!items.data || !firms.data) return <Loading />;
  const heads = (page: typeof items.data) => page.page.flatMap((line) => (line.kind === "group" ? [line] : []));
  const organisations = heads(firms.data).filter(({ key }) => key !== "");
  if (heads(items.data).length === 0) return <p className="mt-4 text-ink-soft">Nothing is shared outside.</p>;
  return (
    <div className="mt-5 grid max-w-5xl grid-cols-2 gap-x-10">
      <section aria-labelledby="most-exposed">
        <h2 id="most-exposed" className="mb-1 font-semibold">
          Most exposed items
        </h2>
        <ul>
          {heads(items.data).map(({ key, title, detail, risk, count }) => (
            <li key={key} className="flex items-center gap-3 border-t border-line py-1.5">
              <span className="w-24 shrink-0">
                <RiskMark risk={risk} />
              </span>
              <span className="min-w-0 grow">
                <button
                  type="button"
                  onClick={() => onPick({ kind: "item", id: key })}
                  className="block max-w-full truncate text-left text-verdigris underline"
                >
                  {title}
                </button>
                <span className="block truncate text-[12px] text-ink-faint">{detail}</span>
              </span>
              <span className="shrink-0 text-ink-soft">{countWords(count, "share")}</span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="reach-most">
        <h2 id="reach-most" className="mb-1 font-semibold">
          Organisations with the most shares
        </h2>
        <ul>
          {organisations.map(({ key, title, risk, count }) => (
            <li key={key} className="flex items-center gap-3 border-t border-line py-1.5">
              <span className="w-24 shrink-0">
                <RiskMark risk={risk} />
              </span>
              <button
                type="button"
                onClick={() => onPick({ kind: "organisation", id: key })}
                className="min-w-0 grow truncate text-left text-verdigris underline"
              >
                {title}
              </button>
              <span className="shrink-0 text-ink-soft">{countWords(count, "share")}</span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
