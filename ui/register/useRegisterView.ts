"use client";

import { createParser, parseAsArrayOf, parseAsString, parseAsStringLiteral, useQueryStates } from "nuqs";
import { useCallback, useEffect, useRef } from "react";
import { type Order, parseOrder, printOrder } from "@/core/query/order";
import { type GroupHead, GROUPINGS, type Grouping } from "@/core/query/outline";
import { GROUP_ORDERS, type GroupOrder } from "@/core/query/totals";
import type { RegisterSettings } from "@/core/register/saved";

const ONE_GO_MS = 1_500;
const FIRST_ORDER: Order = [{ by: "risk", reversed: false }];
const parseAsOrder = createParser<Order>({
  parse: parseOrder,
  serialize: printOrder,
  eq: (a, b) => printOrder(a) === printOrder(b),
});

const PARTS = {
  q: parseAsString.withDefault(""),
  sort: parseAsOrder.withDefault(FIRST_ORDER),
  group: parseAsStringLiteral(GROUPINGS),
  groups: parseAsStringLiteral(GROUP_ORDERS).withDefault("first"),
  open: parseAsArrayOf(parseAsString).withDefault([]),
  share: parseAsString,
};

/** What the register shows, as it stands in the address bar: query, order, groups, and which share is looked into. */
export function useRegisterView(settings: RegisterSettings | undefined) {
  const [{ q, sort, group, groups, open, share }, set] = useQueryStates(PARTS);
  const text = viewText(q, sort, group, groups);
  const setText = useCallback(
    (view: string, options: { history: "push" | "replace" } = { history: "push" }) => {
      const parts = new URLSearchParams(view);
      const grouping = parts.get("group") as Grouping | null;
      const shown = {
        q: parts.get("q"),
        sort: parseOrder(parts.get("sort") ?? ""),
        group: grouping && GROUPINGS.includes(grouping) ? grouping : null,
        groups: GROUP_ORDERS.find((one) => one === parts.get("groups")) ?? null,
      };
      void set({ ...shown, open: null, share: null }, options);
    },
    [set],
  );
  // Somebody's own first query is put there once, where the address asks for nothing.
  const isFirst = useRef(true);
  useEffect(() => {
    if (!settings || !isFirst.current) return;
    isFirst.current = false;
    if (settings.startView !== null && text === "" && share === null)
      setText(settings.startView, { history: "replace" });
  }, [settings, text, share, setText]);

  // Back leads to the query before; what is typed in one go is one query.
  const changedAt = useRef(-Infinity);
  const setQuery = useCallback(
    (next: string) => {
      const isTyping = performance.now() - changedAt.current < ONE_GO_MS;
      changedAt.current = performance.now();
      void set({ q: next || null }, { history: isTyping ? "replace" : "push" });
    },
    [set],
  );
  return {
    query: q,
    order: sort,
    group,
    groupOrder: groups,
    open,
    openId: share,
    text,
    setText,
    setQuery,
    setOrder: (order: Order) => void set({ sort: order }),
    setGroup: (by: Grouping | null) => void set({ group: by, open: null }),
    setGroupOrder: (order: GroupOrder) => void set({ groups: order }),
    setOpenId: (id: string | null) => void set({ share: id }),
    toggleGroup: ({ key, isOpen }: GroupHead) =>
      void set({ open: isOpen ? open.filter((one) => one !== key) : [...open, key] }),
  };
}

function viewText(query: string, order: Order, group: Grouping | null, groups: GroupOrder): string {
  const parts = new URLSearchParams();
  if (query !== "") parts.set("q", query);
  if (printOrder(order) !== printOrder(FIRST_ORDER)) parts.set("sort", printOrder(order));
  if (group) parts.set("group", group);
  if (group && groups !== "first") parts.set("groups", groups);
  return parts.toString();
}
