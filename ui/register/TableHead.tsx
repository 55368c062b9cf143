"use client";

import { ArrowDown, ArrowUp } from "lucide-react";
import type { Order, Sort } from "@/core/query/order";
import type { Column } from "./columns";
import type { TableState } from "./useTableState";

interface Props {
  state: TableState;
  order: Order;
  onSort: (sort: Sort, isSecond: boolean) => void;
}

/** The names of the columns: pressing one sorts by it, with Shift as the second thing to sort by; its edge is dragged. */
export function TableHead({ state, order, onSort }: Props) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      style={{ gridTemplateColumns: state.tracks }}
      className="sticky top-0 z-10 grid h-7 items-center border-b border-line-strong bg-raised text-[12px] font-semibold text-ink-faint"
    >
      <span role="columnheader">
        <span className="sr-only">Mark</span>
      </span>
      {state.shown.map((column) => (
        <ColumnHead key={column.id} column={column} state={state} order={order} onSort={onSort} />
      ))}
    </div>
  );
}

function ColumnHead({ column, state, order, onSort }: Props & { column: Column }) {
  const place = order.findIndex(({ by }) => by === column.sort);
  const key = order[place];
  const header = state.table.getFlatHeaders().find(({ id }) => id === column.id);
  const Arrow = key?.reversed ? ArrowUp : ArrowDown;
  return (
    <span
      role="columnheader"
      aria-sort={place === 0 ? (key.reversed ? "descending" : "ascending") : undefined}
      className="relative flex h-full items-center px-[7px]"
    >
      {column.sort ? (
        <button
          type="button"
          onClick={(event) => onSort(column.sort!, event.shiftKey)}
          title="Sort by this; hold Shift to sort by it second"
          className="inline-flex min-w-0 items-center gap-1"
        >
          <span className="truncate">{column.title}</span>
          {key && <Arrow size={12} aria-hidden className="shrink-0" />}
          {key && order.length > 1 && <span className="text-[11px]">{place + 1}</span>}
        </button>
      ) : (
        column.title
      )}
      <span
        aria-hidden
        onMouseDown={header?.getResizeHandler()}
        onTouchStart={header?.getResizeHandler()}
        className="absolute inset-y-1 right-0 w-[5px] cursor-col-resize border-r border-line hover:border-verdigris"
      />
    </span>
  );
}
