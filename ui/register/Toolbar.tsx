"use client";

import { GROUPINGS, type Grouping } from "@/core/query/outline";
import { GROUP_ORDERS, type GroupOrder } from "@/core/query/totals";
import { asOf } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { ColumnsMenu } from "./ColumnsMenu";
import { ExportMenu } from "./ExportMenu";
import type { Staging } from "../staging/useStaging";
import { TightenMenu } from "./TightenMenu";
import type { TableState } from "./useTableState";
import { Link } from "../parts/Link";

const GROUP_WORDS: Record<Grouping, string> = {
  item: "By item",
  organisation: "By organisation",
  maker: "By maker",
  folder: "By folder tree",
};

const ORDER_WORDS: Record<GroupOrder, string> = {
  first: "Groups in list order",
  count: "Most shares first",
  risk: "Riskiest first",
  latches: "Most open latches first",
  used: "Last used first",
  name: "Groups by name",
};

interface Props {
  found: number;
  /** How many can be marked, waived or exported together: none where the query isn't understood whole. */
  inBulk: number;
  mayChange: boolean;
  group: Grouping | null;
  groupOrder: GroupOrder;
  state: TableState;
  query: string;
  order: string;
  past: string | null;
  onMarkAll: () => void;
  onMarkNone: () => void;
  onCopy: () => void;
  markedIds: string[];
  staging: Staging;
  onWaive: () => void;
  onGroup: (group: Grouping | null) => void;
  onGroupOrder: (order: GroupOrder) => void;
}

/** What can be done with the marked shares, and how the list is laid out. */
export function Toolbar(props: Props) {
  const { found, inBulk, mayChange, group, state, past, markedIds, staging } = props;
  const marked = markedIds.length;
  return (
    <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-1.5 border-b border-line bg-surface px-3.5 py-1 max-xl:[&_kbd]:hidden xl:gap-2">
      <b className="min-w-20 font-semibold whitespace-nowrap tabular-nums">{marked.toLocaleString("en-GB")} marked</b>
      <Button disabled={inBulk === 0} onClick={props.onMarkAll}>
        Mark all {found.toLocaleString("en-GB")}
      </Button>
      <Button disabled={marked === 0} onClick={props.onMarkNone}>
        Mark none
      </Button>
      <Button disabled={marked === 0} onClick={props.onCopy}>
        Copy <Key>c</Key>
      </Button>
      {mayChange && (
        <>
          <span className="mx-1 h-5 border-l border-line-strong" />
          <Button className="text-oxide" disabled={marked === 0} onClick={() => staging.revoke(markedIds)}>
            Add revoke to docket <Key>x</Key>
          </Button>
          <TightenMenu ids={markedIds} staging={staging} onWaive={props.onWaive} found={inBulk} />
        </>
      )}
      <span className="grow" />
      <select
        aria-label="Group by"
        value={group ?? ""}
        onChange={(event) => props.onGroup((event.target.value || null) as Grouping | null)}
        className="h-[30px] rounded-[3px] border border-control bg-raised px-1 text-ink"
      >
        <option value="">Not grouped</option>
        {GROUPINGS.map((by) => (
          <option key={by} value={by}>
            {GROUP_WORDS[by]}
          </option>
        ))}
      </select>
      {group !== null && (
        <select
          aria-label="Groups sorted by"
          value={props.groupOrder}
          onChange={(event) => props.onGroupOrder(event.target.value as GroupOrder)}
          className="h-[30px] rounded-[3px] border border-control bg-raised px-1 text-ink"
        >
          {GROUP_ORDERS.map((order) => (
            <option key={order} value={order}>
              {ORDER_WORDS[order]}
            </option>
          ))}
        </select>
      )}
      <ColumnsMenu state={state} />
      <ExportMenu query={props.query} order={props.order} past={past} found={inBulk} />
      <Link href="/register/intake" className="whitespace-nowrap text-verdigris underline">
        Intake
      </Link>
      <Link href="/register/over" className="whitespace-nowrap text-verdigris underline">
        Over
      </Link>
      <Link href={asOf("/register/public", past)} className="whitespace-nowrap text-verdigris underline">
        Public list
      </Link>
    </div>
  );
}
