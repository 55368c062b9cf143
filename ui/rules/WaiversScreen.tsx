"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { rulesOperations } from "@/contract/rules";
import { RULES } from "@/core/rules/list";
import { seconds } from "@/core/time/instant";
import { asOf, useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { MarkAllBox, MarkBox } from "../parts/MarkBox";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useBoxKeys, useMarking } from "../parts/useMarking";
import { countWords } from "../parts/words";

/** Every waiver: what may stay as it is, why, until when, and who said so. */
export function WaiversScreen() {
  const dates = useDates();
  const { viewer, now, past } = useStandpoint();
  const client = useQueryClient();
  const { data, error } = useQuery({
    ...asked(rulesOperations.waivers, { past }),
  });
  const end = useMutation({
    mutationFn: (ids: number[]) => ask(rulesOperations.endWaivers, { body: { ids } }),
    onSuccess: () => {
      marking.clear();
      void client.invalidateQueries();
    },
  });
  const problem = error ?? end.error;
  const waivers = data?.waivers ?? [];
  const mayChange = viewer.mayChange && past === null;
  const marking = useMarking(mayChange ? waivers.filter((one) => !one.isOver).map(({ id }) => id) : []);
  const marked = marking.ids.filter((id) => marking.marked.has(id));
  const onKeyDown = useBoxKeys(marking, "waivers");
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="flex items-center gap-3 border-b border-line-strong bg-surface px-3.5 py-2">
        <h1 className="grow text-[18px] font-semibold">
          Waivers{" "}
          <span className="text-[14px] font-normal text-ink-soft">
            {data &&
              `${waivers.filter((one) => !one.isOver).length} active, ${waivers.filter((one) => one.isOver).length} ended`}
          </span>
        </h1>
        {mayChange && (
          <Button disabled={marked.length === 0 || end.isPending} onClick={() => end.mutate(marked)}>
            End {marked.length > 0 ? countWords(marked.length, "waiver") : "marked waivers"} now
          </Button>
        )}
        <Link href={asOf("/rules", past)} className="text-verdigris underline">
          Rules
        </Link>
      </header>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {data && waivers.length === 0 && (
        <div className="p-6">
          <Notice>No waivers. To waive a share’s findings, mark it in the register and press w.</Notice>
        </div>
      )}
      {waivers.length > 0 && (
        <div className="min-h-0 overflow-y-auto">
          <table id="waivers" onKeyDown={onKeyDown} className="w-full">
            <thead className="sticky top-0 bg-raised text-left text-[12px] text-ink-faint">
              <tr>
                {["", "Share", "Rule", "Why", "Until", "Given by"].map((title) => (
                  <th key={title} className="px-3.5 py-1.5 font-semibold">
                    {title || (mayChange ? <MarkAllBox marking={marking} /> : <span className="sr-only">Mark</span>)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {waivers.map((one) => (
                <tr key={one.id} className="border-t border-line align-top">
                  <td className="px-3.5 py-1.5">
                    {mayChange && !one.isOver && (
                      <MarkBox marking={marking} id={one.id} label={`the waiver for ${one.itemName ?? one.shareId}`} />
                    )}
                  </td>
                  <td className="px-3.5 py-1.5">
                    <Link
                      href={asOf(`/register?share=${encodeURIComponent(one.shareId)}`, past)}
                      className="text-verdigris underline"
                    >
                      {one.itemName ?? "A share that no longer exists"}
                    </Link>
                    <span className="block text-[12px] text-ink-faint">{one.place}</span>
                  </td>
                  <td className="px-3.5 py-1.5">{RULES[one.rule].title}</td>
                  <td className="px-3.5 py-1.5">{one.reason}</td>
                  <td className="px-3.5 py-1.5 whitespace-nowrap">
                    {one.isOver ? "Ended " : ""}
                    {dates.day(one.ends)}
                    <span className="block text-[12px] text-ink-faint">{dates.distance(seconds(one.ends), now)}</span>
                  </td>
                  <td className="px-3.5 py-1.5">
                    {one.givenBy}
                    <span className="block text-[12px] text-ink-faint">{dates.day(one.givenAt)}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
