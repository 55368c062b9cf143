"use client";

import { X } from "lucide-react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { waysInOperations } from "@/contract/waysIn";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Combobox } from "../parts/Combobox";
import { type Subject, subjectsOf } from "../parts/Finder";

interface One {
  id: string;
  words: string;
}

interface Props {
  label: string;
  hint?: string;
  /** What the field says that finds one more. */
  find: string;
  kinds: Subject["kind"][];
  picked: readonly One[];
  onPicked: (picked: One[]) => void;
  /** Text that is accepted as typed though nothing by that name is known; null if it isn't. */
  typed?: (text: string) => string | null;
}

/** A field for several things found by name. */
export function Picked({ label, hint, find, kinds, picked, onPicked, typed }: Props) {
  const { past } = useStandpoint();
  const [text, setText] = useState<string | null>(null);
  const { data } = useQuery({
    queryKey: [...keyOf(waysInOperations.find), text, false, past],
    queryFn: ({ signal }) => ask(waysInOperations.find, { query: { text: text!, owners: false }, past, signal }),
    enabled: text !== null && text.trim().length > 1,
  });
  const found = text === null || !data ? [] : subjectsOf(data).filter(({ kind }) => kinds.includes(kind));
  const own = text === null ? null : (typed?.(text.trim()) ?? null);
  const isKnown = found.some(({ id }) => id === own);
  const choices = [
    ...found,
    ...(own === null || isKnown ? [] : [{ id: own, words: own, more: "nothing is known of it yet" }]),
  ];
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-semibold">{label}</legend>
      <ul className="mb-1">
        {picked.map(({ id, words }) => (
          <li key={id} className="flex items-center gap-2 border-t border-line py-1">
            <span className="grow">{words}</span>
            <button
              type="button"
              aria-label={`Remove ${words}`}
              onClick={() => onPicked(picked.filter((one) => one.id !== id))}
              className="px-1 text-ink-soft"
            >
              <X aria-hidden size={16} />
            </button>
          </li>
        ))}
      </ul>
      <Combobox
        {...{ label: find, placeholder: find.toLowerCase(), value: "", text }}
        isLabelHidden
        className="w-[330px]"
        onText={setText}
        choices={choices.map(({ id, words, more }) => ({ id, words, more }))}
        onPick={(choice) => {
          setText(null);
          if (choice && !picked.some(({ id }) => id === choice.id))
            onPicked([...picked, { id: choice.id, words: choice.words }]);
        }}
      />
      {hint && <p className="mt-1 text-ink-faint">{hint}</p>}
    </fieldset>
  );
}
