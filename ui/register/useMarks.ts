"use client";

import { useCallback, useEffect, useMemo, useState } from "react";

const KEPT = "register-marks";
const NONE: ReadonlySet<string> = new Set();

/** Which shares are marked. Marks stay while the query changes, so that they can be gathered; and through a reload. */
export function useMarks() {
  // What was kept is known to the browser alone: it comes after the first drawing.
  const [held, setHeld] = useState<ReadonlySet<string> | null>(null);
  useEffect(() => {
    // eslint-disable-next-line react-hooks/set-state-in-effect
    if (held === null) setHeld(keptMarks());
    else if (held.size === 0) sessionStorage.removeItem(KEPT);
    else sessionStorage.setItem(KEPT, JSON.stringify([...held]));
  }, [held]);
  const marked = held ?? NONE;
  const setMarked = useCallback((next: (before: ReadonlySet<string>) => ReadonlySet<string>) => {
    setHeld((before) => next(before ?? keptMarks()));
  }, []);
  const toggle = useCallback(
    (id: string) => {
      setMarked((before) => {
        const next = new Set(before);
        if (!next.delete(id)) next.add(id);
        return next;
      });
    },
    [setMarked],
  );
  const add = useCallback((ids: Iterable<string>) => setMarked((before) => new Set([...before, ...ids])), [setMarked]);
  const clear = useCallback(() => setMarked(() => NONE), [setMarked]);
  return useMemo(() => ({ marked, toggle, add, clear }), [marked, toggle, add, clear]);
}

/** Of this tab alone: what another window marks is nothing of this one. */
function keptMarks(): ReadonlySet<string> {
  const kept = sessionStorage.getItem(KEPT);
  return new Set(kept === null ? [] : (JSON.parse(kept) as string[]));
}

export type Marks = ReturnType<typeof useMarks>;
