"use client";

import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { type KeyboardEvent, useId, useState } from "react";
import { waysInOperations } from "@/contract/waysIn";
import type { Found } from "@/core/access/ways";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "./ask";

/** What was picked. */
export type Subject = { kind: "item" | "person" | "organisation"; id: string };

interface Choice extends Subject {
  words: string;
  more: string;
}

interface Props {
  label: string;
  placeholder: string;
  /** What it may find; `owners` are people who can own something. */
  kinds: (Subject["kind"] | "owner")[];
  /** What is picked now, in words; empty for nothing. */
  value: string;
  onPick: (subject: Subject | null) => void;
}

/** A field that finds items, people and organisations by what is typed, and offers them in a list. */
export function Finder({ label, placeholder, kinds, value, onPick }: Props) {
  const { past } = useStandpoint();
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const owners = kinds.includes("owner");
  const { data } = useQuery({
    queryKey: [...keyOf(waysInOperations.find), text, owners, past],
    queryFn: ({ signal }) => ask(waysInOperations.find, { query: { text: text!, owners }, past, signal }),
    enabled: text !== null && text.trim().length > 1,
  });
  const choices =
    text === null || !data
      ? []
      : choicesOf(data).filter(({ kind }) => kinds.includes(kind) || (owners && kind === "person"));
  const pick = (choice: Choice | null) => {
    onPick(choice && { kind: choice.kind, id: choice.id });
    setText(null);
    setAt(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, choices.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && choices[at]) pick(choices[at]);
    else if (event.key === "Escape") setText(null);
    else return;
    event.preventDefault();
  };
  return (
    <span className="relative inline-block w-[330px]">
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={choices.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={choices[at] ? `${id}-${at}` : undefined}
        placeholder={placeholder}
        value={text ?? value}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          if (event.target.value === "") pick(null);
        }}
        onBlur={() => setText(null)}
        onKeyDown={onKeyDown}
        className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5 text-[15px] font-semibold placeholder:font-normal placeholder:text-ink-faint"
      />
      <ul
        id={`${id}-list`}
        role="listbox"
        aria-label={label}
        hidden={choices.length === 0}
        className="absolute top-10 left-0 z-20 max-h-[50vh] w-[440px] overflow-y-auto border border-line-strong bg-raised shadow-lg"
      >
        {choices.map((choice, index) => (
          <li
            key={choice.kind + choice.id}
            id={`${id}-${index}`}
            role="option"
            aria-selected={index === at}
            // The field would lose the focus, and the list with it, before a click is done.
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => pick(choice)}
            className={clsx("px-3 py-1.5", index === at && "bg-verdigris-soft")}
          >
            <span className="block truncate">{choice.words}</span>
            <span className="block truncate text-[12px] text-ink-faint">{choice.more}</span>
          </li>
        ))}
      </ul>
    </span>
  );
}

const STATUS = { active: "", suspended: ", suspended", left: ", has left" };

function choicesOf(found: Found): Choice[] {
  return [
    ...found.items.map((one) => ({ kind: "item" as const, id: one.id, words: one.name, more: one.place.join(" / ") })),
    ...found.organisations.map((one) => ({
      kind: "organisation" as const,
      id: one,
      words: one,
      more: "everybody of this organisation",
    })),
    ...found.people.map((one) => ({
      kind: "person" as const,
      id: one.address,
      words: one.name,
      more: one.address + STATUS[one.status],
    })),
  ];
}
