"use client";

import { X } from "lucide-react";
import { Popover } from "radix-ui";
import type { ReactNode } from "react";

/** A word in a sentence that can be turned: pressed, it shows what else could stand there. */
export function Slot({ label, words, children }: { label: string; words: string; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label}: ${words}`}
        className="border-b-2 border-verdigris px-0.5 font-semibold text-verdigris"
      >
        {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          align="start"
          sideOffset={6}
          className="z-20 w-[360px] border border-line-strong bg-raised p-3 text-[14px] shadow-lg"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface Choice {
  value: string;
  title: string;
}

/** A slot that holds some of a few values. */
export function ListSlot(props: {
  label: string;
  words: string;
  choices: readonly Choice[];
  chosen: readonly string[];
  onChoose: (chosen: string[]) => void;
}) {
  const { choices, chosen, onChoose } = props;
  const toggle = (value: string) =>
    onChoose(choices.map((one) => one.value).filter((one) => (one === value) !== chosen.includes(one)));
  return (
    <Slot label={props.label} words={props.words}>
      <ul className="max-h-[280px] overflow-y-auto">
        {choices.map(({ value, title }) => (
          <li key={value}>
            <label className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                checked={chosen.includes(value)}
                onChange={() => toggle(value)}
                className="accent-verdigris"
              />
              {title}
            </label>
          </li>
        ))}
      </ul>
    </Slot>
  );
}

/** What has been put into a slot one by one, each of which can be taken out. */
export function Chosen({ values, onRemove }: { values: readonly Choice[]; onRemove: (value: string) => void }) {
  return (
    <ul className="mt-2">
      {values.map(({ value, title }) => (
        <li key={value} className="flex items-center gap-2 border-t border-line py-1">
          <span className="min-w-0 grow wrap-anywhere">{title}</span>
          <button type="button" aria-label={`Remove ${title}`} onClick={() => onRemove(value)}>
            <X size={14} aria-hidden />
          </button>
        </li>
      ))}
    </ul>
  );
}
