import clsx from "clsx";
import type { ComponentProps } from "react";
import { useIsLive } from "./useIsLive";

interface Props extends ComponentProps<"button"> {
  /** `act` does the main thing here; `end` does what can't be undone; `quiet` is all else. */
  look?: "act" | "end" | "quiet";
}

const LOOKS = {
  act: "bg-verdigris text-on-verdigris border-verdigris font-semibold",
  end: "bg-oxide text-on-oxide border-oxide font-semibold",
  quiet: "bg-raised text-ink border-control",
};

export function Button({ look = "quiet", className, type = "button", disabled, ...rest }: Props) {
  // A form that is sent before the page's script runs would be lost: the browser would load the page again, empty.
  const isTooEarly = !useIsLive() && type === "submit";
  return (
    <button
      type={type}
      disabled={disabled || isTooEarly}
      className={clsx(
        "h-[30px] rounded-[3px] border px-3 whitespace-nowrap",
        "aria-pressed:border-verdigris aria-pressed:bg-verdigris-soft aria-pressed:font-semibold",
        disabled && "opacity-50",
        LOOKS[look],
        className,
      )}
      {...rest}
    />
  );
}
