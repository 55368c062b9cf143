"use client";

import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { type KeyboardEvent, memo, useEffect, useRef } from "react";
import type { Order, Sort } from "@/core/query/order";
import type { GroupHead } from "@/core/query/outline";
import type { RegisterLine } from "@/core/query/page";
import type { RegisterRow } from "@/core/register/columns";
import type { Seconds } from "@/core/time/instant";
import { useDates } from "../parts/useDates";
import type { Column } from "./columns";
import { GroupLine } from "./GroupLine";
import { TableHead } from "./TableHead";
import type { Marks } from "./useMarks";
import type { TableState } from "./useTableState";

const ROW_HEIGHT = 44;
const COMPACT_HEIGHT = 30;
/** So many lines are drawn beyond each edge. */
const BEYOND = 4;

interface Props {
  /** How many lines there are. */
  lines: number;
  now: Seconds;
  marks: Marks;
  /** Shares that the tray changes. */
  stagedIds: ReadonlySet<string>;
  cursor: number;
  order: Order;
  isGrouped: boolean;
  state: TableState;
  openId: string | null;
  lineAt: (index: number) => RegisterLine | undefined;
  setCursor: (index: number) => void;
  onSort: (sort: Sort, isSecond: boolean) => void;
  onOpen: (row: RegisterRow) => void;
  onToggle: (head: GroupHead) => void;
  /** Which lines are in sight. */
  onSight: (first: number, last: number) => void;
}

/** The lines of the register: as many as there are, of which only those in sight are drawn. */
export function Table(props: Props) {
  const { lines, cursor, lineAt, marks, stagedIds, setCursor, onOpen, onToggle, onSight, now, openId, state } = props;
  const height = state.isCompact ? COMPACT_HEIGHT : ROW_HEIGHT;
  const scroller = useRef<HTMLDivElement>(null);
  // The React compiler leaves this hook alone: it hands out functions whose answers change.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: lines,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: BEYOND,
  });
  useEffect(() => virtual.measure(), [virtual, height]);
  const rows = virtual.getVirtualItems();
  const first = rows[0]?.index ?? 0;
  const last = rows.at(-1)?.index ?? 0;
  useEffect(() => onSight(first, last), [first, last, onSight]);
  // A line that comes into sight takes the place of one that has left it: nothing is made or thrown away meanwhile.
  const places = Math.max(rows.length, Math.ceil((virtual.scrollRect?.height ?? 0) / height) + 1 + 2 * BEYOND);
  const rowAt = (index: number) => {
    const line = lineAt(index);
    return line?.kind === "share" ? line.row : undefined;
  };

  const moveTo = (index: number, extend: boolean) => {
    const next = Math.min(Math.max(index, 0), lines - 1);
    if (extend) marks.add([rowAt(cursor)?.id, rowAt(next)?.id].filter((id) => id !== undefined));
    setCursor(next);
    virtual.scrollToIndex(next);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    // The head has keys of its own.
    if (event.target !== event.currentTarget) return;
    const steps: Record<string, number> = {
      ArrowDown: 1,
      ArrowUp: -1,
      PageDown: 12,
      PageUp: -12,
      Home: -lines,
      End: lines,
    };
    const line = lineAt(cursor);
    if (event.key in steps) moveTo(cursor + steps[event.key], event.shiftKey);
    else if (!line) return;
    else if (line.kind === "group" && ["Enter", " ", line.isOpen ? "ArrowLeft" : "ArrowRight"].includes(event.key))
      onToggle(line);
    else if (line.kind === "share" && event.key === " ") marks.toggle(line.row.id);
    else if (line.kind === "share" && event.key === "Enter") onOpen(line.row);
    else return;
    event.preventDefault();
  };

  const onClick = (index: number, isExtending: boolean) => {
    const line = lineAt(index);
    setCursor(index);
    if (line?.kind === "group") onToggle(line);
    else if (line && isExtending) marks.add(between(cursor, index).flatMap((at) => rowAt(at)?.id ?? []));
    else if (line) onOpen(line.row);
  };

  return (
    <div
      role={props.isGrouped ? "treegrid" : "grid"}
      aria-label="Shares"
      aria-rowcount={lines + 1}
      aria-multiselectable
      aria-activedescendant={lines > 0 ? `row-${cursor}` : undefined}
      tabIndex={0}
      data-table
      onKeyDown={onKeyDown}
      ref={scroller}
      className="min-h-0 min-w-0 grow overflow-auto bg-raised max-lg:h-[70vh] max-lg:grow-0"
    >
      <div className="min-w-fit">
        <TableHead state={state} order={props.order} onSort={props.onSort} />
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {rows.map(({ index, start }) => {
            const line = lineAt(index);
            const row = line?.kind === "share" ? line.row : undefined;
            const isMarked = row !== undefined && marks.marked.has(row.id);
            return (
              <div
                key={index % places}
                id={`row-${index}`}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={isMarked}
                aria-level={props.isGrouped && line ? line.depth + 1 : undefined}
                aria-expanded={line?.kind === "group" ? line.isOpen : undefined}
                onClick={(event) => onClick(index, event.shiftKey)}
                style={{ gridTemplateColumns: state.tracks, top: start, height }}
                className={clsx(
                  "absolute grid w-full cursor-default items-center border-b border-line",
                  isMarked ? "bg-verdigris-soft" : row !== undefined && row.id === openId && "bg-surface",
                  index === cursor && "shadow-[inset_0_1px_0_var(--verdigris),inset_0_-1px_0_var(--verdigris)]",
                )}
              >
                {line?.kind === "group" ? (
                  <GroupLine head={line} />
                ) : (
                  <ShareCells
                    row={row}
                    now={now}
                    columns={state.shown}
                    isCompact={state.isCompact}
                    isMarked={isMarked}
                    isStaged={row !== undefined && stagedIds.has(row.id)}
                    toggle={marks.toggle}
                  />
                )}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

interface CellsProps {
  row: RegisterRow | undefined;
  now: Seconds;
  columns: readonly Column[];
  isCompact: boolean;
  isMarked: boolean;
  isStaged: boolean;
  toggle: (id: string) => void;
}

/** Drawn again only when something of it has changed: while the list is scrolled that counts. */
const ShareCells = memo(function ShareCells(props: CellsProps) {
  const { row, now, columns, isCompact, isMarked, isStaged, toggle } = props;
  const dates = useDates();
  return (
    <>
      <span role="gridcell" className="flex items-center gap-1 pl-1">
        <span title={isStaged ? "In the tray" : undefined} className={clsx("h-[22px] w-1", isStaged && "bg-copper")}>
          {isStaged && <span className="sr-only">In the tray</span>}
        </span>
        {row && (
          <input
            type="checkbox"
            tabIndex={-1}
            aria-label={`Mark ${row.itemName}`}
            checked={isMarked}
            onChange={() => toggle(row.id)}
            onClick={(event) => event.stopPropagation()}
            className="block size-[15px] accent-verdigris"
          />
        )}
      </span>
      {columns.map((column) => {
        const lines = row && column.cell(row, now, dates);
        return (
          <span role="gridcell" key={column.id} className="mx-[7px] min-w-0 truncate tabular-nums">
            {lines ? lines.first : <i className="block h-2 w-2/3 bg-line" />}
            {lines?.second && !isCompact && (
              <>
                <br />
                <span className="text-[12px] text-ink-faint">{lines.second}</span>
              </>
            )}
          </span>
        );
      })}
    </>
  );
});

function between(a: number, b: number): number[] {
  return Array.from({ length: Math.abs(a - b) + 1 }, (_, i) => Math.min(a, b) + i);
}
