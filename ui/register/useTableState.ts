"use client";

import {
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { useEffect, useMemo, useRef, useState } from "react";
import { registerOperations } from "@/contract/register";
import type { RegisterSettings, TableSetting } from "@/core/register/saved";
import { ask } from "../parts/ask";
import { COLUMNS, type Column, FIRST_COLUMNS } from "./columns";

const features = tableFeatures({
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
});
const definitions = COLUMNS.map(({ id, title, width }) => ({
  id,
  header: title,
  size: width,
  minSize: 56,
  maxSize: 600,
}));
const NO_ROWS: object[] = [];
const WAIT_MS = 600;

/**
 * Which columns there are, in what order, how wide; and how dense the rows. It is kept for the person. The rows
 * themselves are the server's: the table model here holds the columns alone.
 */
export function useTableState(settings: RegisterSettings | undefined) {
  const kept = settings?.table;
  const [columnOrder, setOrder] = useState<string[]>(COLUMNS.map(({ id }) => id));
  const [columnVisibility, setVisibility] = useState<Record<string, boolean>>(visibilityOf(FIRST_COLUMNS));
  const [columnSizing, setSizing] = useState<Record<string, number>>({});
  const [isCompact, setCompact] = useState(false);
  const [taken, setTaken] = useState<TableSetting | null>(null);
  if (kept && taken !== kept) {
    setTaken(kept);
    setOrder([...kept.columns, ...COLUMNS.map(({ id }) => id).filter((id) => !kept.columns.includes(id))]);
    setVisibility(visibilityOf(kept.columns));
    setSizing(kept.widths);
    setCompact(kept.isCompact);
  }
  const table = useTable({
    features,
    columns: definitions,
    data: NO_ROWS,
    columnResizeMode: "onChange",
    state: { columnOrder, columnVisibility, columnSizing },
    onColumnOrderChange: setOrder,
    onColumnVisibilityChange: setVisibility,
    onColumnSizingChange: setSizing,
  });
  const shown = useMemo(() => {
    const columns = columnOrder.filter((id) => columnVisibility[id]);
    return columns.flatMap((id) => COLUMNS.find((column) => column.id === id) ?? []);
  }, [columnOrder, columnVisibility]);
  useSaving(settings !== undefined, { columns: shown.map(({ id }) => id), widths: columnSizing, isCompact });
  return {
    table,
    shown,
    tracks: ["36px", ...shown.map((column) => trackOf(column, columnSizing[column.id]))].join(" "),
    columnOrder,
    columnSizing,
    isCompact,
    setCompact,
    reset: () => {
      setOrder(COLUMNS.map(({ id }) => id));
      setVisibility(visibilityOf(FIRST_COLUMNS));
      setSizing({});
      setCompact(false);
    },
  };
}
export type TableState = ReturnType<typeof useTableState>;

function visibilityOf(columns: readonly string[]): Record<string, boolean> {
  return Object.fromEntries(COLUMNS.map(({ id }) => [id, columns.includes(id)]));
}

function trackOf({ width, grows }: Column, set: number | undefined): string {
  if (set !== undefined) return `${set}px`;
  return grows ? `minmax(${width}px, 1fr)` : `${width}px`;
}

/** Keeps what has been changed, once the changing rests. */
function useSaving(isReady: boolean, setting: TableSetting) {
  const text = JSON.stringify(setting);
  const last = useRef<string | null>(null);
  useEffect(() => {
    if (!isReady) return;
    if (last.current === null || last.current === text) {
      last.current = text;
      return;
    }
    const timer = setTimeout(() => {
      last.current = text;
      void ask(registerOperations.setRegister, { body: { table: JSON.parse(text) } });
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [isReady, text]);
}
