import { type ComponentProps, useId } from "react";

interface Props extends ComponentProps<"input"> {
  label: string;
  hint?: string;
}

/** A labelled input; the hint stands under it and is read with it. */
export function Field({ label, hint, ...input }: Props) {
  const id = useId();
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        aria-describedby={hint ? `${id}-hint` : undefined}
        className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5"
        {...input}
      />
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-ink-faint">
          {hint}
        </p>
      )}
    </div>
  );
}
