"use client";

import { ArrowDown, ArrowUp } from "lucide-react";
import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "../parts/Button";
import { COLUMNS } from "./columns";
import type { TableState } from "./useTableState";

const STEP_PX = 16;

/** Which columns are shown, in what order and how wide, and how dense the rows are. It is kept for the person. */
export function ColumnsMenu({ state }: { state: TableState }) {
  const { table, columnOrder, columnSizing, isCompact, setCompact } = state;
  const move = (id: string, step: number) => {
    const order = columnOrder.filter((one) => one !== id);
    order.splice(columnOrder.indexOf(id) + step, 0, id);
    table.setColumnOrder(order);
  };
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Columns</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Columns"
          align="end"
          sideOffset={6}
          className="z-20 w-[340px] border border-line-strong bg-raised p-3 shadow-lg"
        >
          <ul>
            {columnOrder.map((id, place) => {
              const { title, width } = COLUMNS.find((column) => column.id === id)!;
              const column = table.getColumn(id)!;
              const size = columnSizing[id] ?? width;
              const resize = (by: number) =>
                table.setColumnSizing((sizes) => ({ ...sizes, [id]: Math.max(56, size + by) }));
              return (
                <li key={id} className="flex items-center gap-1 border-b border-line py-0.5">
                  <label className="flex grow items-center gap-2">
                    <input
                      type="checkbox"
                      checked={column.getIsVisible()}
                      onChange={() => column.toggleVisibility()}
                      className="accent-verdigris"
                    />
                    {title}
                  </label>
                  <Small label={`Move ${title} to the left`} isOff={place === 0} act={() => move(id, -1)}>
                    <ArrowUp size={13} aria-hidden />
                  </Small>
                  <Small
                    label={`Move ${title} to the right`}
                    isOff={place === columnOrder.length - 1}
                    act={() => move(id, 1)}
                  >
                    <ArrowDown size={13} aria-hidden />
                  </Small>
                  <Small label={`Make ${title} narrower`} act={() => resize(-STEP_PX)}>
                    −
                  </Small>
                  <Small label={`Make ${title} wider`} act={() => resize(STEP_PX)}>
                    +
                  </Small>
                </li>
              );
            })}
          </ul>
          <div className="mt-2 flex items-center gap-3">
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={isCompact}
                onChange={(event) => setCompact(event.target.checked)}
                className="accent-verdigris"
              />
              Compact rows
            </label>
            <span className="grow" />
            <Button onClick={state.reset}>Reset</Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface SmallProps {
  label: string;
  isOff?: boolean;
  act: () => void;
  children: ReactNode;
}

function Small({ label, isOff, act, children }: SmallProps) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={isOff}
      onClick={act}
      className="flex size-6 items-center justify-center rounded-[3px] border border-line-strong disabled:opacity-40"
    >
      {children}
    </button>
  );
}
