"use client";

import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import type { DocketProgress, Receipt } from "@/core/dockets/progress";
import { api } from "../parts/api";
import { changeWords } from "../parts/changeWords";
import { Notice } from "../parts/Notice";
import { countWords, momentWords, plainWords } from "../parts/words";

/** One docket with a receipt for each change: what was sent, what the store said, what a look afterwards found. */
export function DocketScreen({ id }: { id: string }) {
  const { data, error } = useQuery({
    queryKey: ["docket", id],
    queryFn: ({ signal }) => api<{ progress: DocketProgress; receipts: Receipt[] }>(`/api/dockets/${id}`, { signal }),
    refetchInterval: ({ state }) => (state.data?.progress.state === "applying" ? 1_000 : false),
  });
  if (error)
    return (
      <div className="p-6">
        <Notice tone="wrong">{error.message}</Notice>
      </div>
    );
  if (!data) return <p className="p-6 text-ink-faint">Loading…</p>;
  const { progress, receipts } = data;
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="border-b border-line-strong bg-surface px-3.5 py-2.5">
        <h1 className="text-[18px] font-semibold">
          Docket of {countWords(receipts.length, "change")}: {progress.state}
        </h1>
        <p className="text-ink-soft">
          {progress.counts.done} done, {progress.counts.failed} failed, {progress.counts["set-aside"]} set aside,{" "}
          {progress.counts.staged + progress.counts.sending} to do
        </p>
      </header>
      <div className="overflow-y-auto">
        <table className="w-full">
          <thead className="sticky top-0 bg-raised text-left text-[12px] text-ink-faint">
            <tr>
              {["Share", "Change", "State", "The store's answer", "A look afterwards", "When (UTC)"].map((title) => (
                <th key={title} className="px-3.5 py-1.5 font-semibold">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {receipts.map((receipt) => (
              <ReceiptRow key={receipt.subject} receipt={receipt} />
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

function ReceiptRow({ receipt }: { receipt: Receipt }) {
  const { change, state, tries } = receipt;
  return (
    <tr className="border-t border-line align-top">
      <td className="px-3.5 py-1.5">
        {receipt.itemName}
        <span className="block text-[12px] text-ink-faint">
          {receipt.audience}, <span className="font-mono">{receipt.subject}</span>
        </span>
      </td>
      <td className="px-3.5 py-1.5 whitespace-nowrap">{changeWords(change)}</td>
      <td className={clsx("px-3.5 py-1.5 whitespace-nowrap", state === "failed" && "font-semibold text-oxide")}>
        {plainWords(state)}
        {tries > 1 && <span className="block text-[12px] text-ink-faint">{tries} tries</span>}
      </td>
      <td className="px-3.5 py-1.5">{receipt.answer}</td>
      <td className="px-3.5 py-1.5">{receipt.probe}</td>
      <td className="px-3.5 py-1.5 whitespace-nowrap">{receipt.answeredAt && momentWords(receipt.answeredAt)}</td>
    </tr>
  );
}
