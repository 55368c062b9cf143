"use client";

import { useInfiniteQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useQueryState } from "nuqs";
import { useId } from "react";
import { type ShortlistLine, shortlistOperations } from "@/contract/shortlist";
import type { ActGroup } from "@/core/advice/groups";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { closesWords, groupRemarks, groupTitle, percentWords, usedByWords } from "./words";

interface Props {
  scope: string;
  /** The point that the group is of. */
  changes: number;
  group: ActGroup;
  mass: number;
  usedDays: number;
}

/** Changes that do the same: how many, what they shut and cost; opened, one by one. */
export function GroupOfChanges({ scope, changes, group, mass, usedDays }: Props) {
  const [open, setOpen] = useQueryState("group");
  const isOpen = open === group.key;
  const id = useId();
  const Mark = isOpen ? ChevronDown : ChevronRight;
  return (
    <li className="border-b border-line py-2">
      <div className="flex gap-3">
        <button
          type="button"
          aria-expanded={isOpen}
          aria-controls={id}
          onClick={() => void setOpen(isOpen ? null : group.key)}
          className="flex grow items-start gap-2 text-left"
        >
          <Mark size={16} aria-hidden className="mt-1 shrink-0 text-verdigris" />
          <span>
            <span className="font-semibold">{groupTitle(group, usedDays)}</span>
            <span className="block text-ink-soft">{groupRemarks(group)}</span>
          </span>
        </button>
        <span className="w-20 shrink-0 text-right tabular-nums">
          <span className="block font-semibold">{percentWords(group.takes, mass)}</span>
          <span className="block text-ink-soft">price {group.price.toLocaleString("en-GB")}</span>
        </span>
      </div>
      <div id={id} className="pl-6">
        {isOpen && <OneByOne {...{ scope, changes, group, usedDays }} />}
      </div>
    </li>
  );
}

function OneByOne({ scope, changes, group, usedDays }: Omit<Props, "mass">) {
  const query = { scope, changes, group: group.key };
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: [...keyOf(shortlistOperations.pointLines), query],
    queryFn: ({ pageParam: from, signal }) =>
      ask(shortlistOperations.pointLines, { query: { ...query, from }, signal }),
    initialPageParam: 0,
    getNextPageParam: ({ count }, pages) => {
      const shown = pages.flatMap(({ lines }) => lines).length;
      return shown < count ? shown : undefined;
    },
  });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!data) return <Loading />;
  const lines = data.pages.flatMap((page) => page.lines);
  return (
    <>
      <ul>
        {lines.map((line) => (
          <Line key={line.row.id} line={line} isUsed={group.isUsed} usedDays={usedDays} />
        ))}
      </ul>
      {hasNextPage && (
        <Button className="mt-2" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Show more: {lines.length.toLocaleString("en-GB")} of {data.pages[0].count.toLocaleString("en-GB")} are shown
        </Button>
      )}
    </>
  );
}

function Line({ line, isUsed, usedDays }: { line: ShortlistLine; isUsed: boolean; usedDays: number }) {
  const { row, price, usedBy } = line;
  return (
    <li className="flex gap-3 border-t border-line py-1.5 first:mt-2">
      <span className="min-w-0 grow wrap-anywhere">
        <Link href={`/register?share=${encodeURIComponent(row.id)}`} className="text-verdigris underline">
          {row.itemName}
        </Link>{" "}
        <span className="text-ink-soft">{row.place.join(" / ")}</span>
        <span className="block text-[12.5px] text-ink-soft">
          {row.audience}. {closesWords(line)} {usedByWords(usedBy, isUsed, usedDays)}
        </span>
      </span>
      <span className="shrink-0 text-ink-soft tabular-nums">price {price}</span>
    </li>
  );
}
