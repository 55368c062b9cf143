import type { ReactNode } from "react";

/** A key to press, as it stands in a button or a menu. */
export function Key({ children }: { children: ReactNode }) {
  return <kbd className="rounded-[2px] border border-current px-1 font-mono text-[11.5px]">{children}</kbd>;
}
