"use client";

import { useRouter } from "next/navigation";
import { parseAsBoolean, parseAsString, parseAsStringLiteral, useQueryState } from "nuqs";
import { useCallback, useEffect, useState } from "react";
import { type Sort, SORTS } from "@/core/query/match";
import type { RegisterRow } from "@/core/register/row";
import { useTray } from "../frame/useTray";
import { asOf, useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { EndDateDialog } from "./EndDateDialog";
import { Inspector } from "./Inspector";
import { QueryBar } from "./QueryBar";
import { Table } from "./Table";
import { useMarks } from "./useMarks";
import { allIds, useRegister } from "./useRegister";

/** Every share of every store in one list: found, marked, looked into, staged. */
export function RegisterScreen() {
  const { viewer, now, past } = useStandpoint();
  const { tray, stage } = useTray();
  const [query, setQuery] = useQueryState("q", parseAsString.withDefault(""));
  const [sort, setSort] = useQueryState("sort", parseAsStringLiteral(SORTS).withDefault("risk"));
  const [reversed, setReversed] = useQueryState("reversed", parseAsBoolean.withDefault(false));
  const [openId, setOpenId] = useQueryState("share", parseAsString);
  const [cursor, setCursor] = useState(0);
  const [sight, setSight] = useState({ first: 0, last: 40 });
  const [endingIds, setEndingIds] = useState<string[]>([]);
  const marks = useMarks();
  const { head, rowAt } = useRegister({ query, sort, reversed, past }, sight.first, sight.last);
  const found = head.data?.found ?? 0;
  const markedIds = [...marks.marked];
  const router = useRouter();
  const traceRow = (row: RegisterRow | undefined) =>
    row && router.push(asOf(`/trace?item=${encodeURIComponent(row.itemId)}`, past));

  const onQuery = useCallback(
    (text: string) => {
      if (text !== query) setCursor(0);
      void setQuery(text || null);
    },
    [query, setQuery],
  );
  const onSight = useCallback((first: number, last: number) => setSight({ first, last }), []);
  const onSort = (next: Sort) => {
    void setReversed(next === sort && !reversed ? true : null);
    void setSort(next);
  };

  const revoke = (ids: string[]) => {
    stage.mutate(ids.map((shareId) => ({ action: "revoke" as const, shareId })));
    marks.clear();
  };
  const end = (expiresAt: string) => {
    stage.mutate(endingIds.map((shareId) => ({ action: "set-expiry" as const, shareId, expiresAt })));
    setEndingIds([]);
    marks.clear();
  };
  useRegisterKeys({
    x: () => viewer.mayChange && markedIds.length > 0 && revoke(markedIds),
    e: () => viewer.mayChange && markedIds.length > 0 && setEndingIds(markedIds),
    t: () => traceRow(rowAt(cursor)),
    "/": () => document.querySelector<HTMLInputElement>("[data-query]")?.focus(),
    Escape: () => void setOpenId(null),
  });

  return (
    <div className="flex h-full flex-col">
      <h1 className="sr-only">Register</h1>
      <QueryBar query={query} problems={head.data?.problems ?? []} onQuery={onQuery}>
        <p aria-live="polite" className="whitespace-nowrap text-ink-soft tabular-nums">
          {head.data ? `${found.toLocaleString("en-GB")} of ${countWords(head.data.total, "share")}` : "Loading"}
        </p>
      </QueryBar>
      {viewer.mayChange && (
        <div className="flex h-10 shrink-0 items-center gap-2.5 border-b border-line bg-surface px-3.5">
          <b className="min-w-24 font-semibold tabular-nums">{markedIds.length.toLocaleString("en-GB")} marked</b>
          <Button disabled={found === 0} onClick={async () => marks.add(await allIds(query))}>
            Mark all {found.toLocaleString("en-GB")}
          </Button>
          <Button disabled={markedIds.length === 0} onClick={marks.clear}>
            Mark none
          </Button>
          <span className="mx-2 h-5 border-l border-line-strong" />
          <Button className="text-oxide" disabled={markedIds.length === 0} onClick={() => revoke(markedIds)}>
            Stage revoke <Key>x</Key>
          </Button>
          <Button disabled={markedIds.length === 0} onClick={() => setEndingIds(markedIds)}>
            Stage an end date <Key>e</Key>
          </Button>
          <span className="grow" />
          <span className="text-ink-faint">
            <Key>/</Key> query, <Key>↑</Key> <Key>↓</Key> move, <Key>Space</Key> mark, <Key>Enter</Key> open,{" "}
            <Key>t</Key> trace
          </span>
        </div>
      )}
      <div className="flex min-h-0 grow">
        {head.error ? (
          <div className="grow bg-raised p-6">
            <Notice tone="wrong">{head.error.message}</Notice>
            <Button className="mt-3" onClick={() => head.refetch()}>
              Try again
            </Button>
          </div>
        ) : head.data && found === 0 ? (
          <Nothing query={query} total={head.data.total} clear={() => onQuery("")} />
        ) : (
          <Table
            {...{ found, now, marks, cursor, sort, reversed, openId, rowAt, setCursor, onSort, onSight }}
            onOpen={(row) => void setOpenId(row.id)}
          />
        )}
        {openId && (
          <Inspector
            id={openId}
            past={past}
            mayChange={viewer.mayChange}
            isStaged={tray?.changes.some((one) => one.subject === openId) ?? false}
            onClose={() => void setOpenId(null)}
            onRevoke={() => revoke([openId])}
            onEnd={() => setEndingIds([openId])}
            onOpen={(id) => void setOpenId(id)}
          />
        )}
      </div>
      <EndDateDialog
        count={endingIds.length}
        now={now}
        isOpen={endingIds.length > 0}
        onClose={() => setEndingIds([])}
        onChoose={end}
      />
    </div>
  );
}

function Key({ children }: { children: string }) {
  return <kbd className="rounded-[2px] border border-current px-1 font-mono text-[11.5px]">{children}</kbd>;
}

function Nothing({ query, total, clear }: { query: string; total: number; clear: () => void }) {
  return (
    <div className="grow bg-raised p-6">
      {total === 0 ? (
        <Notice>No share is known yet. Connect a store or import an estate file, as docs/command-line.md tells.</Notice>
      ) : (
        <>
          <Notice>
            No share meets <code className="font-mono">{query}</code>.
          </Notice>
          <Button className="mt-3" onClick={clear}>
            Show all shares
          </Button>
        </>
      )}
    </div>
  );
}

/** Keys that work anywhere on the screen, but not while something is typed or asked. */
function useRegisterKeys(keys: Record<string, () => unknown>) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const isTyping =
        target.matches("input:not([type=checkbox]), textarea, select") ||
        target.closest("[role=dialog], [role=alertdialog]");
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
