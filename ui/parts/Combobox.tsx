"use client";

import clsx from "clsx";
import { type KeyboardEvent, type ReactNode, useId, useState } from "react";

export interface Choice {
  id: string;
  words: string;
  /** What stands under it in small. */
  more: string;
}

interface Props<C extends Choice> {
  label: string;
  /** Whether the label is read out only; it is shown above otherwise. */
  isLabelHidden?: boolean;
  placeholder?: string;
  /** What is chosen now, in words; empty for nothing. */
  value: string;
  /** What is typed; null while nothing is. */
  text: string | null;
  onText: (text: string | null) => void;
  choices: readonly C[];
  onPick: (choice: C | null) => void;
  hint?: ReactNode;
  className?: string;
}

/** A field in which one types, and chooses from the list of what that may mean. */
export function Combobox<C extends Choice>(props: Props<C>) {
  const { label, isLabelHidden, placeholder, value, text, onText, choices, onPick, hint, className } = props;
  const id = useId();
  const [at, setAt] = useState(0);
  const pick = (choice: C | null) => {
    onPick(choice);
    onText(null);
    setAt(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, choices.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && choices[at]) pick(choices[at]);
    else if (event.key === "Escape" && text !== null) onText(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <span className={clsx("relative inline-block", className)}>
      {!isLabelHidden && (
        <label htmlFor={id} className="mb-1 block font-semibold">
          {label}
        </label>
      )}
      <input
        id={id}
        role="combobox"
        aria-label={isLabelHidden ? label : undefined}
        aria-expanded={choices.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={choices[at] ? `${id}-${at}` : undefined}
        aria-describedby={hint ? `${id}-hint` : undefined}
        autoComplete="off"
        placeholder={placeholder}
        value={text ?? value}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          onText(event.target.value);
          setAt(0);
        }}
        onBlur={() => onText(null)}
        onKeyDown={onKeyDown}
        className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5 placeholder:font-normal placeholder:text-ink-faint"
      />
      {hint && (
        <span id={`${id}-hint`} className="mt-1 block text-ink-faint">
          {hint}
        </span>
      )}
      <ul
        id={`${id}-list`}
        role="listbox"
        aria-label={label}
        hidden={choices.length === 0}
        className="absolute left-0 z-40 max-h-[50vh] w-full min-w-72 overflow-y-auto border border-line-strong bg-raised shadow-lg"
      >
        {choices.map((choice, index) => (
          <li
            key={choice.id}
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
