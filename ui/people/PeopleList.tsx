"use client";

import type { ComponentProps, ReactNode } from "react";
import type { QueryProblem } from "@/core/query/query";
import { useStandpoint } from "../frame/viewer";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Pages } from "../parts/Pages";
import { countWords } from "../parts/words";
import type { QueryKind } from "../query/kind";
import { QueryBar } from "../query/QueryBar";
import { PeopleTabs } from "./PeopleTabs";

/** So many lines stand on a page. */
export const PAGE_SIZE = 100;

interface Props {
  at: ComponentProps<typeof PeopleTabs>["at"];
  /** Where the same list is as CSV. */
  file: string;
  kind: QueryKind;
  query: string;
  /** Which line is the first of the page. */
  from: number;
  /** What was found; undefined as long as that isn't known. */
  found: { found: number; page: readonly unknown[]; problems: QueryProblem[] } | undefined;
  error: Error | null;
  noun: [one: string, many?: string];
  /** What else can be had or done here. */
  more?: ReactNode;
  /** Asks for something else: another query begins at its first page. */
  onAsk: (asked: { q?: string; from: number | null }) => void;
  /** What it says where nothing is found, and what it shows else. */
  none: ReactNode;
  children: ReactNode;
}

/** A list of the section that is asked by queries: its tabs, the query, what was found, and its pages. */
export function PeopleList({ at, file, kind, query, from, found, error, noun, more, onAsk, ...rest }: Props) {
  const { past } = useStandpoint();
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="px-6 pt-4">
        <div className="flex items-baseline gap-4">
          <h1 className="grow text-[20px] font-semibold">People</h1>
          {more}
          <a href={file} className="text-verdigris underline" download>
            Export CSV
          </a>
        </div>
        <PeopleTabs at={at} />
      </header>
      <QueryBar
        kind={kind}
        query={query}
        problems={found?.problems ?? []}
        past={past}
        onQuery={(q) => onAsk({ q, from: null })}
      >
        <p role="status" className="text-ink-soft">
          {found && countWords(found.found, ...noun)}
        </p>
      </QueryBar>
      <div className="min-h-0 grow overflow-auto px-6 pb-4" tabIndex={0} aria-busy={!found && !error}>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!found && !error && <Loading />}
        {found?.found === 0 && rest.none}
        {found && found.found > 0 && (
          <>
            {rest.children}
            <Pages
              {...{ from, size: PAGE_SIZE, shown: found.page.length, found: found.found }}
              onGo={(to) => onAsk({ from: to || null })}
            />
          </>
        )}
      </div>
    </div>
  );
}
