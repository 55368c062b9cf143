import { useId } from "react";

interface Props<T extends string> {
  label: string;
  value: T;
  choices: readonly { value: T; words: string }[];
  onPick: (value: T) => void;
}

/** One of a few, in a line with its label before it. */
export function Choice<T extends string>({ label, value, choices, onPick }: Props<T>) {
  const id = useId();
  return (
    <div className="flex items-center gap-1.5">
      <label htmlFor={id} className="text-ink-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onPick(event.target.value as T)}
        className="h-[30px] rounded-[3px] border border-control bg-raised px-2"
      >
        {choices.map((one) => (
          <option key={one.value} value={one.value}>
            {one.words}
          </option>
        ))}
      </select>
    </div>
  );
}
