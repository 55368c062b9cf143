"use client";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { Seconds } from "@/core/time/instant";
import { Loading } from "../parts/Loading";
import { useFragment } from "../parts/useFragment";
import { DecidersPage } from "./DecidersPage";
import { type Door, doorByMail } from "./door";
import { DecidingContext } from "./useDecisions";

/** The page that a mail about a round leads to, without the console and without an account. */
export function DecideScreen({ now }: { now: Seconds }) {
  const token = useFragment();
  const [client] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={client}>
      {token === null ? <Loading className="p-4" /> : <DecideAt door={doorByMail(token)} now={now} />}
    </QueryClientProvider>
  );
}

/** The page, by one way in. */
export function DecideAt({ door, now }: { door: Door; now: Seconds }) {
  const key = JSON.stringify(door.who);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- who comes in tells all that may change of the door
  const deciding = useMemo(() => ({ door, now }), [key, now]);
  return (
    <DecidingContext value={deciding}>
      <DecidersPage />
    </DecidingContext>
  );
}
