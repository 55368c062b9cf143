import type { KeyboardEvent } from "react";

const STEPS: Record<string, number> = { ArrowDown: 1, j: 1, ArrowUp: -1, k: -1 };

/**
 * Moves from row to row of a table by the arrows, or by j and k, as in the register: the focus goes to the first link of
 * each, and Enter opens it.
 */
export function moveByRow(event: KeyboardEvent<HTMLTableElement>) {
  const step = STEPS[event.key];
  if (!step || event.altKey || event.ctrlKey || event.metaKey) return;
  const links = [...event.currentTarget.querySelectorAll<HTMLElement>("tbody tr")].flatMap(
    (row) => row.querySelector<HTMLElement>("a") ?? [],
  );
  const at = links.findIndex((link) => link.closest("tr")!.contains(document.activeElement));
  const next = links[Math.min(Math.max(at + step, 0), links.length - 1)];
  next?.focus();
  event.preventDefault();
}

/** What a table has that is moved through so: a query that was asked leads on to it. */
export const ROW_TABLE = { "data-table": true, tabIndex: 0, onKeyDown: moveByRow } as const;
