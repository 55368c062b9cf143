"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { type KeyboardEvent, useLayoutEffect, useRef, useState } from "react";
import { type Completion, completionsAt } from "@/core/query/complete";
import { quoted } from "@/core/query/print";
import type { QueryKind } from "./kind";

interface Props {
  kind: QueryKind;
  text: string;
  isWrong: boolean;
  past: string | null;
  onText: (text: string) => void;
}

/** Where a query is typed: fields and their values are offered for the term at the caret. */
export function QueryField({ kind, text, isWrong, past, onText }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const caretToBe = useRef<number | null>(null);
  const [caret, setCaret] = useState<number | null>(null);
  const [active, setActive] = useState(-1);
  const { from, options } = useCompletions(kind, text, caret, past);
  const isOpen = caret !== null && options.length > 0;

  // The caret goes behind what was put in as soon as that stands there, before the next key.
  useLayoutEffect(() => {
    if (caretToBe.current !== null) input.current?.setSelectionRange(caretToBe.current, caretToBe.current);
    caretToBe.current = null;
  }, [text]);

  const accept = ({ insert }: Completion) => {
    const rest = text.slice(caret ?? text.length);
    const end = from + insert.length;
    onText(text.slice(0, from) + insert + rest);
    setActive(-1);
    setCaret(insert.endsWith(":") ? end : null);
    caretToBe.current = end;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!isOpen) return;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) setActive((at) => (Math.max(at, step < 0 ? 0 : -1) + step + options.length) % options.length);
    else if ((event.key === "Enter" || event.key === "Tab") && options[active]) accept(options[active]);
    else if (event.key === "Escape") setCaret(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="relative min-w-0 grow">
      <input
        ref={input}
        role="combobox"
        aria-label="Query"
        aria-expanded={isOpen}
        aria-controls="completions"
        aria-activedescendant={isOpen && active >= 0 ? `completion-${active}` : undefined}
        aria-autocomplete="list"
        aria-invalid={isWrong}
        data-query
        autoComplete="off"
        spellCheck={false}
        value={text}
        onChange={(event) => {
          onText(event.target.value);
          setCaret(event.target.selectionStart);
          setActive(-1);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => setCaret(null)}
        placeholder={`Words, or field:value. For example ${kind.examples[0][0]}`}
        className="h-[30px] w-full rounded-[3px] border border-control bg-raised px-2.5 font-mono text-[13px] placeholder:text-ink-faint"
      />
      <ul
        id="completions"
        role="listbox"
        aria-label="Suggestions"
        hidden={!isOpen}
        className="absolute top-full left-0 z-20 mt-1 max-h-72 w-[460px] overflow-y-auto border border-line-strong bg-raised py-1 shadow-lg"
      >
        {options.map((option, index) => (
          <li
            key={option.insert}
            id={`completion-${index}`}
            role="option"
            aria-selected={index === active}
            // Before the field loses its focus.
            onMouseDown={(event) => {
              event.preventDefault();
              accept(option);
            }}
            className={clsx("flex gap-3 px-2.5 py-1", index === active && "bg-verdigris-soft")}
          >
            <span className="shrink-0 font-mono">{option.insert}</span>
            <span className="truncate text-ink-faint">{option.help}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What the term at the caret could go on to be; values of the data are asked of the server. */
function useCompletions(kind: QueryKind, text: string, caret: number | null, past: string | null) {
  const known = caret === null ? { from: 0, options: [] } : completionsAt(text, caret, kind.fields);
  const { field, typed = "" } = { field: undefined, ...known };
  const { data } = useQuery({
    queryKey: [...(kind.values?.key ?? []), field, typed, past],
    queryFn: ({ signal }) => kind.values!.ask({ field: field!, text: typed, past, signal }),
    enabled: field !== undefined && kind.values !== undefined,
    placeholderData: keepPreviousData,
  });
  if (field === undefined || !data) return known;
  const options = data.map(({ value, title }) => ({
    insert: quoted(value),
    help: title === value ? "" : title,
  }));
  return { from: known.from, options };
}
