import clsx from "clsx";
import type { ReactNode } from "react";

/** A few words in the place of what could not be shown, or beside what went wrong. */
export function Notice({ tone = "plain", children }: { tone?: "plain" | "wrong"; children: ReactNode }) {
  return (
    <div
      role={tone === "wrong" ? "alert" : "status"}
      className={clsx(
        "max-w-prose border-l-[3px] px-3 py-1",
        tone === "wrong" ? "border-oxide" : "border-line-strong text-ink-soft",
      )}
    >
      {children}
    </div>
  );
}
