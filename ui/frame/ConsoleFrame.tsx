"use client";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Seconds } from "@/core/time/instant";
import { Band } from "./Band";
import { Tray } from "./Tray";
import { type Viewer, ViewerContext } from "./viewer";

/** What stands around every screen: the band above, the tray at the foot. */
export function ConsoleFrame({ viewer, now, children }: { viewer: Viewer; now: Seconds; children: ReactNode }) {
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5_000 } } }));
  return (
    <QueryClientProvider client={client}>
      <ViewerContext value={{ viewer, now }}>
        <div className="grid h-dvh min-w-[1100px] grid-rows-[40px_minmax(0,1fr)_auto]">
          <Band />
          <main className="min-h-0">{children}</main>
          <Tray />
        </div>
      </ViewerContext>
    </QueryClientProvider>
  );
}
