import clsx from "clsx";
import type { ComponentProps } from "react";

interface Props extends ComponentProps<"button"> {
  /** `act` does the main thing here; `end` does what can't be undone; `quiet` is all else. */
  look?: "act" | "end" | "quiet";
}

const LOOKS = {
  act: "bg-verdigris text-on-verdigris border-verdigris font-semibold",
  end: "bg-oxide text-on-oxide border-oxide font-semibold",
  quiet: "bg-raised text-ink border-control",
};

export function Button({ look = "quiet", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={clsx(
        "h-[30px] rounded-[3px] border px-3 whitespace-nowrap disabled:opacity-50",
        "aria-pressed:border-verdigris aria-pressed:bg-verdigris-soft aria-pressed:font-semibold",
        LOOKS[look],
        className,
      )}
      {...rest}
    />
  );
}
