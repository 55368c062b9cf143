"use client";

import { useCallback, useMemo, useState } from "react";

/** Which shares are marked. Marks stay while the query changes, so that they can be gathered. */
export function useMarks() {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const toggle = useCallback((id: string) => {
    setMarked((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }, []);
  const add = useCallback((ids: Iterable<string>) => setMarked((before) => new Set([...before, ...ids])), []);
  const clear = useCallback(() => setMarked(new Set()), []);
  return useMemo(() => ({ marked, toggle, add, clear }), [marked, toggle, add, clear]);
}

export type Marks = ReturnType<typeof useMarks>;
