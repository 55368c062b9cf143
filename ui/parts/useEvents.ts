"use client";

import { useEffect, useState } from "react";

/** The newest message of a stream of server-sent events; null before the first, and while there is no address. */
export function useEvents<T>(address: string | null): T | null {
  const [state, setState] = useState<{ address: string | null; data: T | null }>({ address, data: null });
  useEffect(() => {
    if (!address) return;
    const source = new EventSource(address);
    source.onmessage = (event) => setState({ address, data: JSON.parse(event.data) as T });
    return () => source.close();
  }, [address]);
  return state.address === address ? state.data : null;
}
