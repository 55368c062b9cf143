"use client";

import { type ReactNode, useCallback, useEffect, useState } from "react";
import type { QueryProblem } from "@/core/query/query";
import { useKeys } from "../parts/useKeys";
import { QueryField } from "./QueryField";
import type { QueryKind } from "./kind";
import { QueryHelp } from "./QueryHelp";

interface Props {
  kind: QueryKind;
  query: string;
  problems: QueryProblem[];
  past: string | null;
  onQuery: (query: string) => void;
  children?: ReactNode;
}

const WAIT_MS = 250;

/** The query, what of it wasn't understood, and what can be asked. */
export function QueryBar({ kind, query, problems, past, onQuery, children }: Props) {
  const [text, setText] = useState(query);
  const [applied, setApplied] = useState(query);
  const [sent, setSent] = useState<string[]>([]);
  // The address bar may change the query too: then the field follows. What was typed here comes back late, when
  // more has been typed already, and is no such change.
  if (query !== applied) {
    const at = sent.indexOf(query);
    setApplied(query);
    setSent(at < 0 ? [] : sent.slice(at + 1));
    // What somebody is in the middle of writing stays: it is asked in a moment.
    if (at < 0 && text.trim() === applied) setText(query);
  }
  const ask = useCallback(() => {
    if (text.trim() === query) return;
    setSent((sent) => [...sent, text.trim()]);
    onQuery(text.trim());
  }, [text, query, onQuery]);
  useEffect(() => {
    const timer = setTimeout(ask, WAIT_MS);
    return () => clearTimeout(timer);
  }, [ask]);

  useKeys({ "/": () => document.querySelector<HTMLInputElement>("[data-query]")?.focus() });

  return (
    <div className="border-b border-line bg-surface px-3.5 py-2">
      <form
        role="search"
        className="flex flex-wrap items-center gap-x-3 gap-y-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          ask();
          // Whoever has asked goes on to the answer.
          document.querySelector<HTMLElement>("[data-table]")?.focus();
        }}
      >
        <QueryField kind={kind} text={text} isWrong={problems.length > 0} past={past} onText={setText} />
        <QueryHelp kind={kind} onPick={(name) => setText(`${text.trim()} ${name}:`.trim())} />
        {children}
      </form>
      {problems.length > 0 && (
        <div role="alert" className="mt-1.5 text-copper">
          <ul>
            {problems.map((problem) => (
              <li key={problem.from}>
                Left out: <code className="font-mono">{query.slice(problem.from, problem.to)}</code>, {problem.message}.
                {problem.instead !== undefined && (
                  <button
                    type="button"
                    onClick={() => setText(query.slice(0, problem.from) + problem.instead + query.slice(problem.to))}
                    className="ml-2 text-verdigris underline"
                  >
                    Use {problem.instead}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
