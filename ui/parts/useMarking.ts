"use client";

import { type KeyboardEvent, useState } from "react";
import { useKeys } from "./useKeys";

/** What is marked in a list, and how: the same in every list of the product. */
export interface Marking<Id> {
  marked: ReadonlySet<Id>;
  /** Those that are shown and can be marked, in their order. */
  ids: readonly Id[];
  /** @param isRange marks all from the last that was turned to this one */
  toggle: (id: Id, isRange?: boolean) => void;
  /** Marks all that are shown; where all of them are marked, none. */
  toggleAll: () => void;
  add: (ids: readonly Id[]) => void;
  clear: () => void;
}

/**
 * Marks stay while the list shows other lines: those of one page, say, while another is looked at.
 * @param ids of what can be marked, in the order of the list
 */
export function useMarking<Id extends string | number>(ids: readonly Id[]): Marking<Id> {
  const [marked, setMarked] = useState<ReadonlySet<Id>>(new Set());
  const [turned, setTurned] = useState<Id | null>(null);
  return {
    marked,
    ids,
    toggle: (id, isRange = false) => {
      const [from, to] = [turned === null ? -1 : ids.indexOf(turned), ids.indexOf(id)];
      const next = new Set(marked);
      if (isRange && from >= 0) for (const one of ids.slice(Math.min(from, to), Math.max(from, to) + 1)) next.add(one);
      else if (!next.delete(id)) next.add(id);
      setMarked(next);
      setTurned(id);
    },
    toggleAll: () => {
      const isAll = ids.every((id) => marked.has(id));
      setMarked(new Set(isAll ? [...marked].filter((id) => !ids.includes(id)) : [...marked, ...ids]));
    },
    add: (more) => setMarked(new Set([...marked, ...more])),
    clear: () => setMarked(new Set()),
  };
}

const BOXES = "[data-mark]:not(:disabled)";

/**
 * The keys of a list whose lines have a box each: arrows go from box to box, with Shift they mark on the way, `a` marks
 * all, Esc none. Space is the box's own. The arrows find the first box from wherever nothing has the focus.
 */
export function useBoxKeys<Id extends string | number>(marking: Marking<Id>, listId: string) {
  const boxes = () => [...document.querySelectorAll<HTMLInputElement>(`#${listId} ${BOXES}`)];
  useKeys({
    ArrowDown: () => document.activeElement === document.body && boxes()[0]?.focus(),
  });
  return (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (!target.matches(BOXES) || event.ctrlKey || event.metaKey || event.altKey) return;
    const all = boxes();
    const at = all.indexOf(target as HTMLInputElement);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      const next = all[at + step];
      next?.focus();
      if (event.shiftKey)
        marking.add([all[at], next].flatMap((box) => marking.ids.filter((id) => String(id) === box?.dataset.mark)));
    } else if (event.key === "a") marking.toggleAll();
    else if (event.key === "Escape") marking.clear();
    else return;
    event.preventDefault();
  };
}
