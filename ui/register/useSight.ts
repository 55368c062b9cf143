"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { PAGE } from "./useRegister";

/** Who scrolls past so much more than a page reads nothing on the way: what is there is fetched where they rest. */
const FAR = 2 * PAGE;
const REST_MS = 70;

export interface Sight {
  first: number;
  last: number;
}

/** The pages whose lines are in sight, or have just come to be. */
export function useSight() {
  const [sight, setSight] = useState<Sight>({ first: 0, last: 0 });
  const known = useRef(sight);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const onSight = useCallback((first: number, last: number) => {
    // Only pages matter: while the list is scrolled within one, nothing else is drawn anew.
    const next = { first: Math.floor(first / PAGE) * PAGE, last: Math.floor(last / PAGE) * PAGE };
    const { current } = known;
    clearTimeout(timer.current);
    if (current.first === next.first && current.last === next.last) return;
    const show = () => setSight((known.current = next));
    if (Math.abs(next.first - current.first) <= FAR) show();
    else timer.current = setTimeout(show, REST_MS);
  }, []);
  return { sight, onSight };
}
