"use client";

import clsx from "clsx";
import { memo, useMemo, useState } from "react";
import { isChosen, justThis, noValue, withSpan, withValue } from "@/core/query/edit";
import type { Facet } from "@/core/query/facets";
import { parseQuery } from "@/core/query/parse";
import { printQuery } from "@/core/query/print";
import type { Term } from "@/core/query/query";
import { RULES, type RuleId } from "@/core/rules/list";
import { FacetLine } from "../parts/FacetLine";
import { Notice } from "../parts/Notice";
import { plainWords } from "../parts/words";
import { FacetSearch } from "./FacetSearch";
import { SpanChart } from "./SpanChart";
import { useTray } from "../frame/useTray";
import { shareOf } from "./shareOf";
import { useFunnel } from "./useRegister";

const TITLES: Record<Facet["field"], string> = {
  risk: "Risk",
  reach: "How it lets people in",
  rule: "Rule broken",
  waived: "Rule waived",
  latch: "Latch missing",
  label: "Most sensitive label",
  role: "What they can do",
  organisation: "Organisation",
  party: "Party",
  store: "Store",
  department: "Maker’s department",
  maker: "Made by",
  engagement: "Project",
  state: "State",
  kind: "Kind of item",
  outside: "Reaches outside",
};
const SPAN_TITLES = { made: "Made", used: "Last used", ends: "Ends" };

interface Props {
  query: string;
  past: string | null;
  /** Whether the inspector is open too: then there is room for both on wide screens only. */
  isBeside: boolean;
  onQuery: (query: string) => void;
}

/** What the query's shares have in common, with counts; each part leaves its own choice out of its counts. */
export const Funnel = memo(function Funnel({ query, past, isBeside, onQuery }: Props) {
  const { data, error } = useFunnel(query, past);
  const { terms, problems } = useMemo(() => parseQuery(query), [query]);
  const change = (next: Term[]) => onQuery(printQuery(next));
  return (
    <nav
      aria-label="Narrow down"
      // With nothing in it that can have the focus, it could not be scrolled by keys.
      tabIndex={problems.length > 0 ? 0 : undefined}
      className={clsx(
        "shrink-0 overflow-y-auto border-line bg-surface pb-6 max-lg:max-h-56 max-lg:border-b lg:w-[208px] lg:border-r",
        isBeside && "max-[1400px]:hidden",
      )}
    >
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {problems.length > 0 && <p className="p-3 text-copper">Correct the query above to narrow it down here.</p>}
      {past === null && <InTray terms={terms} isOff={problems.length > 0} onChange={change} />}
      {data && (
        <fieldset disabled={problems.length > 0} className="min-w-0">
          {data.facets
            .filter((facet) => facet.values > 0)
            .map((facet) => (
              <FacetList key={facet.field} facet={facet} query={query} past={past} terms={terms} onChange={change} />
            ))}
          {data.histograms.map((one) => (
            <SpanChart
              key={one.field}
              title={SPAN_TITLES[one.field]}
              histogram={one}
              terms={terms}
              onSpan={(span) => change(withSpan(terms, one.field, span))}
            />
          ))}
        </fieldset>
      )}
      {!data && !error && <p className="p-3 text-ink-faint">Counting…</p>}
    </nav>
  );
});

/** What is staged, as something to narrow down to. */
function InTray({ terms, isOff, onChange }: { terms: Term[]; isOff: boolean; onChange: (terms: Term[]) => void }) {
  const { tray } = useTray();
  const count = new Set(tray?.changes.map(shareOf)).size;
  if (!tray?.docketId || count === 0) return null;
  const value = justThis(tray.docketId);
  return (
    <fieldset disabled={isOff} className="min-w-0">
      <section aria-label="Your docket" className="border-b border-line px-3 py-2">
        <h2 className="text-[12px] font-semibold text-ink-faint">Your docket</h2>
        <ul>
          <FacetLine
            title="In the tray"
            share={1}
            count={count}
            isChosen={isChosen(terms, "docket", value)}
            toggle={() => onChange(withValue(terms, "docket", value))}
          />
        </ul>
      </section>
    </fieldset>
  );
}

interface ListProps {
  facet: Facet;
  query: string;
  past: string | null;
  terms: Term[];
  onChange: (terms: Term[]) => void;
}

function FacetList({ facet, query, past, terms, onChange }: ListProps) {
  const { field, top, none, values } = facet;
  const [isSearching, setSearching] = useState(false);
  const toggle = (value: string) => onChange(withValue(terms, field, justThis(value)));
  const most = Math.max(1, ...top.map(({ count }) => count));
  return (
    <section aria-label={TITLES[field]} className="border-b border-line px-3 py-2">
      <h2 className="text-[12px] font-semibold text-ink-faint">{TITLES[field]}</h2>
      <ul>
        {top.map(({ value, title, count }) => (
          <FacetLine
            key={value}
            title={titleOf(field, title)}
            share={count / most}
            count={count}
            isChosen={isChosen(terms, field, justThis(value))}
            toggle={() => toggle(value)}
          />
        ))}
        {none > 0 && values > 0 && OFFERS_NONE.has(field) && (
          <FacetLine
            title="None"
            share={none / Math.max(most, none)}
            count={none}
            isChosen={isChosen(terms, field, noValue(field))}
            toggle={() => onChange(withValue(terms, field, noValue(field)))}
          />
        )}
      </ul>
      {values > top.length &&
        (isSearching ? (
          <FacetSearch
            title={TITLES[field]}
            field={field}
            query={query}
            past={past}
            terms={terms}
            onToggle={toggle}
            onClose={() => setSearching(false)}
          />
        ) : (
          <button type="button" onClick={() => setSearching(true)} className="mt-0.5 text-verdigris underline">
            {(values - top.length).toLocaleString("en-GB")} more
          </button>
        ))}
    </section>
  );
}

/** Fields in which having no value is worth asking for. */
const OFFERS_NONE = new Set<Facet["field"]>(["risk", "rule", "department", "maker", "engagement"]);

function titleOf(field: Facet["field"], title: string): string {
  if (field === "rule" || field === "waived") return RULES[title as RuleId].title;
  return field === "organisation" || field === "maker" || field === "store" ? title : plainWords(title);
}
