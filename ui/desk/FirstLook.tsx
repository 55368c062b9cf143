"use client";

import { useQuery } from "@tanstack/react-query";
import { registerOperations } from "@/contract/register";
import type { Facet } from "@/core/query/facets";
import type { Funnel } from "@/core/query/page";
import { shortlistOperations } from "@/contract/shortlist";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { useCurve } from "../shortlist/useShortlist";
import { closesWords, lineTitle } from "../shortlist/words";

const GRAVE = "risk:very-high";
const UNUSED = "reach:open -used:<90d";
const MOST = 3;

/** What the stores hold, in three sentences, and the three things most worth doing first, each one press away. */
export function FirstLook() {
  const { past } = useStandpoint();
  const all = useFacets("");
  const unused = useFacets(UNUSED);
  const error = all.error ?? unused.error;
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!all.data || !unused.data) return <Loading />;
  const total = totalOf(all.data, "state");
  if (total === 0)
    return (
      <p className="max-w-prose">
        No shares are known yet. This then shows what was found.{" "}
        <Link href="/estate/set-up" className="text-verdigris underline">
          Set up Tight Latch
        </Link>
      </p>
    );
  return (
    <div className="max-w-prose">
      <p>
        Tight Latch found <Count query="" count={total} one="share" /> in{" "}
        {countWords(facetOf(all.data, "store").values, "store")}, including{" "}
        <Count query="outside:yes" count={valueOf(all.data, "outside", "yes")} one="outside share" />.
      </p>
      <p>
        <Count query="reach:open" count={valueOf(all.data, "reach", "open")} one="open link" /> can be used by whoever
        has the address; <Count query={UNUSED} count={totalOf(unused.data, "state")} one="of them" many="of them" />{" "}
        went unused for 90 days.
      </p>
      <p>
        The risk of <Count query={GRAVE} count={valueOf(all.data, "risk", "very-high")} one="share" /> is very high.
      </p>
      {past === null && <WorthDoing />}
    </div>
  );
}

/** The changes of the first step on the curve that shut most files. */
function WorthDoing() {
  const { data: curve } = useCurve("everything");
  const step = curve?.points[1]?.changes;
  const { data } = useQuery({
    ...asked(shortlistOperations.pointLines, { query: { scope: "everything", changes: step ?? 0, count: MOST } }),
    enabled: step !== undefined,
  });
  if (!data || data.lines.length === 0) return null;
  return (
    <>
      <h3 className="mt-3 font-semibold">What to do first</h3>
      <ol className="list-decimal pl-5">
        {data.lines.map((line) => (
          <li key={line.row.id} className="py-0.5">
            <Link href={`/desk/shortlist?changes=${step}`} className="text-verdigris underline">
              {lineTitle(line)}
            </Link>
            . {closesWords(line)}
          </li>
        ))}
      </ol>
    </>
  );
}

/** A number that opens the list that it counts. */
function Count({ query, count, one, many }: { query: string; count: number; one: string; many?: string }) {
  const { past } = useStandpoint();
  return (
    <Link href={asOf(`/register?${new URLSearchParams({ q: query })}`, past)} className="text-verdigris underline">
      {countWords(count, one, many)}
    </Link>
  );
}

const useFacets = (query: string) => {
  const { past } = useStandpoint();
  return useQuery(asked(registerOperations.funnel, { query: { query }, past }));
};

const facetOf = ({ facets }: Funnel, field: Facet["field"]) => facets.find((one) => one.field === field)!;
const valueOf = (funnel: Funnel, field: Facet["field"], value: string) =>
  facetOf(funnel, field).top.find((one) => one.value === value)?.count ?? 0;
/** How many shares a query finds, by a field with one value each; revoked ones aren't counted. */
const totalOf = (funnel: Funnel, field: Facet["field"]) =>
  facetOf(funnel, field).top.reduce((sum, { value, count }) => (value === "revoked" ? sum : sum + count), 0);
