"use client";

import { Popover } from "radix-ui";
import { useEffect, useState } from "react";
import { FIELD_NAMES, type Field, FIELDS } from "@/core/query/fields";
import type { QueryProblem } from "@/core/query/parse";
import { Button } from "../parts/Button";

interface Props {
  query: string;
  problems: QueryProblem[];
  onQuery: (query: string) => void;
  children: React.ReactNode;
}

const WAIT_MS = 250;

/** The query, what of it wasn't understood, and what can be asked. */
export function QueryBar({ query, problems, onQuery, children }: Props) {
  const [text, setText] = useState(query);
  const [applied, setApplied] = useState(query);
  // The address bar may change the query too: then the field follows.
  if (query !== applied) {
    setApplied(query);
    if (query !== text.trim()) setText(query);
  }
  useEffect(() => {
    const timer = setTimeout(() => onQuery(text.trim()), WAIT_MS);
    return () => clearTimeout(timer);
  }, [text, onQuery]);

  return (
    <div className="border-b border-line bg-surface px-3.5 py-2">
      <form
        role="search"
        className="flex items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onQuery(text.trim());
        }}
      >
        <input
          aria-label="Query"
          data-query
          value={text}
          onChange={(event) => setText(event.target.value)}
          spellCheck={false}
          placeholder="Words, or field:value. For example reach:open -used:<45d"
          aria-invalid={problems.length > 0}
          className="h-[30px] min-w-0 grow rounded-[3px] border border-control bg-raised px-2.5 font-mono text-[13px] placeholder:text-ink-faint"
        />
        <FieldHelp onPick={(name) => setText(`${text.trim()} ${name}:`.trim())} />
        {children}
      </form>
      {problems.length > 0 && (
        <ul role="alert" className="mt-1.5 text-copper">
          {problems.map((problem) => (
            <li key={problem.from}>
              Left out: <code className="font-mono">{query.slice(problem.from, problem.to)}</code>, {problem.message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function FieldHelp({ onPick }: { onPick: (name: string) => void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>What can be asked</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 max-h-[70vh] w-[560px] overflow-y-auto border border-line-strong bg-raised p-4 shadow-lg"
        >
          <p>
            All parts must hold. A minus in front turns one round, commas mean “or”, quotes keep words together. Words
            without a field search names, places, people and addresses.
          </p>
          <table className="mt-2 w-full">
            <tbody>
              {FIELD_NAMES.map((name) => (
                <tr key={name} className="border-t border-line align-top">
                  <th className="py-1 pr-3 text-left font-normal">
                    <Popover.Close className="font-mono text-verdigris underline" onClick={() => onPick(name)}>
                      {name}:
                    </Popover.Close>
                  </th>
                  <td className="py-1">
                    {FIELDS[name].help}
                    <span className="block font-mono text-[12px] text-ink-faint">{valueWords(FIELDS[name])}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function valueWords(field: Field): string {
  if (field.kind === "age") return "<45d  >2w  >12h  never";
  return field.values ? field.values.join(", ") : "any words";
}
