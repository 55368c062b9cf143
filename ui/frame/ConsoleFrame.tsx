"use client";

import { QueryClient, QueryClientProvider, useIsFetching } from "@tanstack/react-query";
import { usePathname, useSearchParams } from "next/navigation";
import { createParser, useQueryState } from "nuqs";
import { type ReactNode, useMemo, useState } from "react";
import { seconds, type Seconds } from "@/core/time/instant";
import type { DateSettings } from "@/core/time/style";
import { focusList } from "../parts/focusList";
import { DateSettingsContext } from "../parts/useDates";
import { addressProblems, isInstant } from "./address";
import { AddressNotice } from "./AddressNotice";
import { Band } from "./Band";
import { PastBand } from "./PastBand";
import { Tray } from "./Tray";
import type { Ways } from "../signIn/SignInForm";
import { SignInAgain } from "./SignInAgain";
import { StandpointContext, type Viewer } from "./viewer";

/** A past instant in the address bar. */
const parseAsInstant = createParser({
  parse: (text) => (isInstant(text) ? text : null),
  serialize: (text: string) => text,
});

interface Props {
  viewer: Viewer;
  /** How they want to be told times; null where they never said. */
  dates: DateSettings | null;
  ways: Ways;
  now: Seconds;
  children: ReactNode;
}

/** What stands around every screen: the band with the time control above, the tray at the foot. */
export function ConsoleFrame({ viewer, dates, ways, now, children }: Props) {
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5_000 } } }));
  const [asked, setPast] = useQueryState("at", parseAsInstant);
  const path = usePathname();
  const parameters = useSearchParams();
  const problems = addressProblems(path, parameters);
  const past = asked !== null && seconds(asked) < now ? asked : null;
  const standpoint = useMemo(
    () => ({
      viewer: { ...viewer, mayChange: viewer.mayChange && past === null },
      now: past === null ? now : seconds(past),
      past,
    }),
    [viewer, now, past],
  );
  return (
    <QueryClientProvider client={client}>
      <DateSettingsContext value={dates}>
        <StandpointContext value={standpoint}>
          <div
            // Where the window is narrow, or magnified, the page is scrolled down as a whole.
            className="grid min-h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] lg:h-dvh"
          >
            <div>
              <a
                href="#screen"
                className="sr-only focus:not-sr-only focus:absolute focus:z-40 focus:bg-raised focus:px-3 focus:py-2"
              >
                Skip to the screen
              </a>
              <SkipToList />
              <Band present={now} onPast={(at) => void setPast(at)} />
              {past !== null && <PastBand past={past} onNow={() => void setPast(null)} />}
            </div>
            <Main>{problems.size > 0 ? <AddressNotice {...{ path, parameters, problems }} /> : children}</Main>
            <Tray />
            <SignInAgain email={viewer.address} ways={ways} />
          </div>
        </StandpointContext>
      </DateSettingsContext>
    </QueryClientProvider>
  );
}

/** Leads past the band and the tools to the list of the screen, where it has one. */
function SkipToList() {
  return (
    <button
      type="button"
      onClick={focusList}
      className="sr-only focus:not-sr-only focus:absolute focus:z-40 focus:bg-raised focus:px-3 focus:py-2"
    >
      Skip to the list
    </button>
  );
}

/** The screen itself; busy while something that it shows has never been there yet. */
function Main({ children }: { children: ReactNode }) {
  const waiting = useIsFetching({ predicate: ({ state }) => state.status === "pending" });
  return (
    <main id="screen" tabIndex={-1} aria-busy={waiting > 0} className="min-h-0 outline-none">
      {children}
    </main>
  );
}
