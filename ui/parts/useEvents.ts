"use client";

import { useEffect, useState } from "react";
import { addressOf, type Given, type Placing } from "@/contract/address";
import type { AnswerOf, Operation } from "@/contract/operation";

/** The newest message of a stream of events; null before the first, and while nothing is listened to. */
export function useEvents<O extends Operation>(operation: O, ...[given]: Given<Placing<O>>): AnswerOf<O> | null {
  return useEventsAt<AnswerOf<O>>(addressOf(operation, ...([given] as Given<Placing<O>>)));
}

/** The same at an address that may not be known yet. */
export function useEventsAt<T>(address: string | null): T | null {
  const [state, setState] = useState<{ address: string | null; data: T | null }>({ address, data: null });
  useEffect(() => {
    if (!address) return;
    const source = new EventSource(address);
    source.onmessage = (event) => setState({ address, data: JSON.parse(event.data) as T });
    return () => source.close();
  }, [address]);
  return state.address === address ? state.data : null;
}
