import type { ReactNode } from "react";
import { Mark } from "../frame/Mark";

/** The page around everything that is seen before the console: a narrow column beside a dark edge. */
export function EntrySheet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid min-h-dvh grid-cols-[minmax(64px,22vw)_1fr]">
      <div className="flex items-start justify-end bg-band p-5 pt-[18vh]">
        <Mark size={44} />
      </div>
      <div className="w-full max-w-md p-8 pt-[16vh]">
        <p className="text-ink-soft">Tight Latch</p>
        <h1 className="mb-5 text-[26px] leading-tight font-semibold">{title}</h1>
        {children}
      </div>
    </main>
  );
}
