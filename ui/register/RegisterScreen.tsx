"use client";

import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useCallback, useMemo, useState } from "react";
import { registerOperations } from "@/contract/register";
import { MOST_KEYS, type Order, printOrder, type Sort } from "@/core/query/order";
import type { RegisterSettings } from "@/core/register/saved";
import type { RegisterRow } from "@/core/register/columns";
import { useTray } from "../frame/useTray";
import { useStaging } from "../staging/useStaging";
import { asOf, useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { copyRows } from "./copyRows";
import { Funnel } from "./Funnel";
import { Inspector } from "./Inspector";
import { SavedQueries } from "./SavedQueries";
import { QueryBar } from "../query/QueryBar";
import { REGISTER_QUERY } from "./queryKind";
import { Table } from "./Table";
import { Toolbar } from "./Toolbar";
import { Key } from "../parts/Key";
import { UseUnknown } from "./UseUnknown";
import { shareOf } from "./shareOf";
import { useMarks } from "./useMarks";
import { allIds, useRegister } from "./useRegister";
import { useDates } from "../parts/useDates";
import { useKeys } from "../parts/useKeys";
import { useRegisterView } from "./useRegisterView";
import { useSight } from "./useSight";
import { useTableState } from "./useTableState";

/** Every share of every store in one list: found, marked, looked into, staged. */
export function RegisterScreen() {
  const { viewer, now, past } = useStandpoint();
  const dates = useDates();
  const { tray, unstage } = useTray();
  const stagedIds = useMemo(() => new Set(past === null ? tray?.changes.map(shareOf) : []), [tray, past]);
  const settings = useSettings();
  const view = useRegisterView(settings);
  const { query, order, group, groupOrder, open, openId, setOpenId } = view;
  const [cursor, setCursor] = useState(0);
  const { sight, onSight } = useSight();
  const [copied, setCopied] = useState<string | null>(null);
  const marks = useMarks();
  const state = useTableState(settings);
  const asked = { query, order: printOrder(order), group, groups: groupOrder, open, past };
  const { head, lineAt } = useRegister(asked, sight.first, sight.last);
  const found = head.data?.found ?? 0;
  const markedIds = [...marks.marked];
  const router = useRouter();
  const rowAt = (index: number) => {
    const line = lineAt(index);
    return line?.kind === "share" ? line.row : undefined;
  };
  const showWays = (row: RegisterRow | undefined) =>
    row && router.push(asOf(`/ways?item=${encodeURIComponent(row.itemId)}`, past));

  const { setQuery } = view;
  const onQuery = useCallback(
    (text: string) => {
      if (text !== query) setCursor(0);
      setQuery(text);
    },
    [query, setQuery],
  );
  const staging = useStaging(now, query, (words) => {
    marks.clear();
    setCopied(words);
  });
  // A query that isn't understood whole finds more than was asked for: nothing in bulk is done by it.
  const isWhole = (head.data?.problems ?? []).length === 0;
  const inBulk = isWhole ? found : 0;
  const markAll = async () => inBulk > 0 && marks.add(await allIds(query, past));
  // Keys act on what is marked, or else on the row under the cursor.
  const targets = () => (markedIds.length > 0 ? markedIds : [rowAt(cursor)?.id ?? []].flat());
  const onTargets = (act: (ids: string[]) => void) => () => {
    const ids = targets();
    if (viewer.mayChange && ids.length > 0) act(ids);
  };
  const waive = () => {
    if (markedIds.length > 0) staging.waive({ shareIds: markedIds });
    else if (inBulk > 0) staging.waive({ query, found: inBulk });
  };
  const takeOut = () => {
    const ids = new Set(targets());
    const subjects = tray?.changes.filter((one) => ids.has(shareOf(one))).map(({ subject }) => subject) ?? [];
    if (subjects.length > 0) unstage.mutate(subjects);
  };
  const copy = async () => setCopied(await copyRows(markedIds, past, dates));
  const focusTable = () => document.querySelector<HTMLElement>("[data-table]")?.focus();
  const step = (by: number) => () => {
    if (document.activeElement !== document.body) return;
    focusTable();
    setCursor(Math.max(0, Math.min(cursor + by, (head.data?.lines ?? 1) - 1)));
  };
  useKeys({
    x: onTargets(staging.revoke),
    e: onTargets((ids) => staging.ask("end", ids)),
    p: onTargets((ids) => staging.password(ids)),
    P: onTargets((ids) => staging.password(ids, true)),
    d: onTargets(staging.block),
    n: onTargets((ids) => staging.ask("addresses", ids)),
    l: onTargets((ids) => staging.ask("role", ids)),
    w: onTargets((shareIds) => staging.waive({ shareIds })),
    u: takeOut,
    c: () => markedIds.length > 0 && copy(),
    ArrowDown: step(1),
    ArrowUp: step(-1),
    a: markAll,
    t: () => showWays(rowAt(cursor)),
    Escape: () => {
      setOpenId(null);
      focusTable();
    },
  });

  return (
    <div className="flex h-full flex-col">
      <h1 className="sr-only">Register</h1>
      <QueryBar kind={REGISTER_QUERY} query={query} problems={head.data?.problems ?? []} past={past} onQuery={onQuery}>
        <SavedQueries
          view={view.text}
          settings={settings}
          mayChange={viewer.mayChange}
          past={past}
          onView={view.setText}
        />
        <p aria-live="polite" className="min-w-36 text-right whitespace-nowrap text-ink-soft tabular-nums">
          {head.data ? `${found.toLocaleString("en-GB")} of ${countWords(head.data.total, "share")}` : "Loading"}
        </p>
      </QueryBar>
      <Toolbar
        found={found}
        inBulk={inBulk}
        mayChange={viewer.mayChange}
        group={group}
        groupOrder={groupOrder}
        state={state}
        query={query}
        order={printOrder(order)}
        past={past}
        onMarkAll={markAll}
        onMarkNone={marks.clear}
        onCopy={copy}
        staging={staging}
        markedIds={markedIds}
        onWaive={waive}
        onGroup={view.setGroup}
        onGroupOrder={view.setGroupOrder}
      />
      <p role="status" className={copied ? "border-b border-line bg-surface px-3.5 py-1 text-ink-soft" : "sr-only"}>
        {copied}
      </p>
      {!isWhole && (
        <p role="status" className="border-b border-line bg-copper-soft px-3.5 py-1">
          The list shows what the rest of the query finds. Correct the query to mark, waive or export all results.
        </p>
      )}
      <UseUnknown count={head.data?.useUnknown ?? 0} query={query} onQuery={onQuery} />
      <div className="flex min-h-0 grow max-lg:flex-col">
        <Funnel query={query} past={past} isBeside={openId !== null} onQuery={onQuery} />
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
          <div className="flex min-w-0 grow flex-col">
            <Table
              {...{ now, marks, stagedIds, cursor, order, state, openId, lineAt, setCursor, onSight }}
              isGrouped={group !== null}
              lines={head.data?.lines ?? 0}
              onSort={(by, isSecond) => view.setOrder(sortedBy(order, by, isSecond))}
              onToggle={view.toggleGroup}
              onOpen={(row) => setOpenId(row.id)}
            />
            <KeyHints />
          </div>
        )}
        {openId && (
          <Inspector
            id={openId}
            past={past}
            now={now}
            mayChange={viewer.mayChange}
            staged={tray?.changes.filter((one) => shareOf(one) === openId) ?? []}
            onClose={() => setOpenId(null)}
            staging={staging}
            onOpen={setOpenId}
          />
        )}
      </div>
      {staging.dialog}
    </div>
  );
}

/** What is remembered for the person; asking says that they look now. */
function useSettings(): RegisterSettings | undefined {
  const { data } = useQuery({
    ...asked(registerOperations.lookAtRegister),
    staleTime: Infinity,
  });
  return data;
}

/** An order with a column pressed: as the first thing to sort by, or the second; pressed again it turns round. */
function sortedBy(order: Order, by: Sort, isSecond: boolean): Order {
  const place = order.findIndex((key) => key.by === by);
  const turned = { by, reversed: place >= 0 && !order[place].reversed };
  if (!isSecond) return [place === 0 ? turned : { by, reversed: false }];
  if (place >= 0) return order.map((key, at) => (at === place ? turned : key));
  return [...order.slice(0, MOST_KEYS - 1), { by, reversed: false }];
}

function KeyHints() {
  return (
    <p className="shrink-0 border-t border-line bg-surface px-3 py-0.5 text-[12px] text-ink-faint lg:whitespace-nowrap">
      <Key>/</Key> query, <Key>↑</Key> <Key>↓</Key> move, <Key>Space</Key> mark, <Key>a</Key> mark all, <Key>Enter</Key>{" "}
      open, <Key>t</Key> ways in
    </p>
  );
}

function Nothing({ query, total, clear }: { query: string; total: number; clear: () => void }) {
  return (
    <div className="grow bg-raised p-6">
      {total === 0 ? (
        <Notice>No shares are known yet. Connect a store or import an estate file (see docs/command-line.md).</Notice>
      ) : (
        <>
          <Notice>
            No shares match <code className="font-mono">{query}</code>.
          </Notice>
          <Button className="mt-3" onClick={clear}>
            Show all shares
          </Button>
        </>
      )}
    </div>
  );
}
