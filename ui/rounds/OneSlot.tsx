"use client";

import { useId } from "react";
import { Slot } from "../parts/ListSlot";

/** A slot that holds one of a few values. */
export function OneSlot<V extends string>(props: {
  label: string;
  words: string;
  choices: readonly (readonly [value: V, title: string])[];
  chosen: V;
  onChoose: (value: V) => void;
}) {
  const { label, words, choices, chosen, onChoose } = props;
  const name = useId();
  return (
    <Slot label={label} words={words}>
      <fieldset>
        <legend className="mb-1 font-semibold">{label}</legend>
        {choices.map(([value, title]) => (
          <label key={value} className="flex items-baseline gap-2 py-0.5">
            <input
              type="radio"
              name={name}
              checked={value === chosen}
              onChange={() => onChoose(value)}
              className="accent-verdigris"
            />
            {title}
          </label>
        ))}
      </fieldset>
    </Slot>
  );
}

/** A slot that holds a whole number. */
export function NumberSlot(props: {
  label: string;
  words: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}) {
  const { label, words, value, most, onChange } = props;
  const id = useId();
  return (
    <Slot label={label} words={words}>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        type="number"
        min={1}
        max={most}
        value={value}
        onChange={({ target }) =>
          target.valueAsNumber >= 1 && target.valueAsNumber <= most && onChange(target.valueAsNumber)
        }
        className="h-9 w-28 rounded-[3px] border border-control bg-raised px-2.5"
      />
      <p className="mt-1 text-ink-faint">1 to {most.toLocaleString("en-GB")}.</p>
    </Slot>
  );
}
