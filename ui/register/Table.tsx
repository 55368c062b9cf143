"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef } from "react";
import type { Sort } from "@/core/query/match";
import type { RegisterRow } from "@/core/register/row";
import type { Seconds } from "@/core/time/instant";
import { COLUMNS, TRACKS } from "./columns";
import type { Marks } from "./useMarks";

const ROW_HEIGHT = 44;

interface Props {
  found: number;
  now: Seconds;
  marks: Marks;
  cursor: number;
  sort: Sort;
  reversed: boolean;
  openId: string | null;
  rowAt: (index: number) => RegisterRow | undefined;
  setCursor: (index: number) => void;
  onSort: (sort: Sort) => void;
  onOpen: (row: RegisterRow) => void;
  /** Which rows are in sight. */
  onSight: (first: number, last: number) => void;
}

/** The rows of the register: as many as there are, of which only those in sight are drawn. */
export function Table(props: Props) {
  const { found, cursor, rowAt, marks, setCursor, onOpen, onSight, now, openId } = props;
  const scroller = useRef<HTMLDivElement>(null);
  // The React compiler leaves this hook alone: it hands out functions whose answers change.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: found,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const rows = virtual.getVirtualItems();
  const first = rows[0]?.index ?? 0;
  const last = rows.at(-1)?.index ?? 0;
  useEffect(() => onSight(first, last), [first, last, onSight]);

  const moveTo = (index: number, extend: boolean) => {
    const next = Math.min(Math.max(index, 0), found - 1);
    if (extend) marks.add([rowAt(cursor)?.id, rowAt(next)?.id].filter((id) => id !== undefined));
    setCursor(next);
    virtual.scrollToIndex(next);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowDown: 1,
      ArrowUp: -1,
      PageDown: 12,
      PageUp: -12,
      Home: -found,
      End: found,
    };
    const row = rowAt(cursor);
    if (event.key in steps) moveTo(cursor + steps[event.key], event.shiftKey);
    else if (event.key === " " && row) marks.toggle(row.id);
    else if (event.key === "Enter" && row) onOpen(row);
    else return;
    event.preventDefault();
  };

  return (
    <div
      role="grid"
      aria-label="Shares"
      aria-rowcount={found + 1}
      aria-multiselectable
      aria-activedescendant={found > 0 ? `row-${cursor}` : undefined}
      tabIndex={0}
      data-table
      onKeyDown={onKeyDown}
      ref={scroller}
      className="min-h-0 min-w-0 grow overflow-auto bg-raised"
    >
      <Head sort={props.sort} reversed={props.reversed} onSort={props.onSort} />
      <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
        {rows.map(({ index, start }) => {
          const row = rowAt(index);
          const isMarked = row !== undefined && marks.marked.has(row.id);
          return (
            <div
              key={index}
              id={`row-${index}`}
              role="row"
              aria-rowindex={index + 2}
              aria-selected={isMarked}
              onClick={(event) => {
                setCursor(index);
                if (!row) return;
                if (event.shiftKey) marks.add(between(cursor, index).flatMap((at) => rowAt(at)?.id ?? []));
                else onOpen(row);
              }}
              style={{ gridTemplateColumns: TRACKS, transform: `translateY(${start}px)`, height: ROW_HEIGHT }}
              className={clsx(
                "absolute top-0 grid w-full cursor-default items-center border-b border-line",
                isMarked ? "bg-verdigris-soft" : row?.id === openId && "bg-surface",
                index === cursor && "shadow-[inset_0_1px_0_var(--verdigris),inset_0_-1px_0_var(--verdigris)]",
              )}
            >
              <span role="gridcell" className="pl-3">
                {row && <MarkBox isMarked={isMarked} name={row.itemName} toggle={() => marks.toggle(row.id)} />}
              </span>
              {COLUMNS.map((column) => (
                <span role="gridcell" key={column.title} className="min-w-0 px-[7px] tabular-nums">
                  {row ? column.cell(row, now) : <i className="block h-2 w-2/3 bg-line" />}
                </span>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function between(a: number, b: number): number[] {
  return Array.from({ length: Math.abs(a - b) + 1 }, (_, i) => Math.min(a, b) + i);
}

function MarkBox({ isMarked, name, toggle }: { isMarked: boolean; name: string; toggle: () => void }) {
  return (
    <input
      type="checkbox"
      tabIndex={-1}
      aria-label={`Mark ${name}`}
      checked={isMarked}
      onChange={toggle}
      onClick={(event) => event.stopPropagation()}
      className="block size-[15px] accent-verdigris"
    />
  );
}

function Head({ sort, reversed, onSort }: Pick<Props, "sort" | "reversed" | "onSort">) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      style={{ gridTemplateColumns: TRACKS }}
      className="sticky top-0 z-10 grid h-7 items-center border-b border-line-strong bg-raised text-[12px] font-semibold text-ink-faint"
    >
      <span role="columnheader">
        <span className="sr-only">Mark</span>
      </span>
      {COLUMNS.map((column) => {
        const isSorted = column.sort !== undefined && column.sort === sort;
        const Arrow = reversed ? ArrowUp : ArrowDown;
        return (
          <span
            role="columnheader"
            key={column.title}
            aria-sort={isSorted ? (reversed ? "descending" : "ascending") : undefined}
            className="px-[7px]"
          >
            {column.sort ? (
              <button
                type="button"
                tabIndex={-1}
                onClick={() => onSort(column.sort!)}
                className="inline-flex items-center gap-1"
              >
                {column.title}
                {isSorted && <Arrow size={12} aria-hidden />}
              </button>
            ) : (
              column.title
            )}
          </span>
        );
      })}
    </div>
  );
}
