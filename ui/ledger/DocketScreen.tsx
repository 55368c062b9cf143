"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import Link from "next/link";
import type { Preview } from "@/core/dockets/preview";
import { previewWords } from "@/core/dockets/previewWords";
import type { DocketProgress, DocketView, Receipt } from "@/core/dockets/progress";
import { ConfirmApply } from "../frame/ConfirmApply";
import { PreviewParts } from "../frame/PreviewParts";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { api } from "../parts/api";
import { changeWords } from "@/core/dockets/changeWords";
import { Notice } from "../parts/Notice";
import { ShowOnce } from "../parts/ShowOnce";
import { countWords, momentWords, plainWords } from "../parts/words";

/** One docket with a receipt for each change: what was sent, what the store said, what a look afterwards found. */
export function DocketScreen({ id }: { id: string }) {
  const { data, error } = useQuery({
    queryKey: ["docket", id],
    queryFn: ({ signal }) => api<DocketView>(`/api/dockets/${id}`, { signal }),
    refetchInterval: ({ state }) => (state.data?.progress.state === "applying" ? 1_000 : false),
  });
  if (error)
    return (
      <div className="p-6">
        <Notice tone="wrong">{error.message}</Notice>
      </div>
    );
  if (!data) return <p className="p-6 text-ink-faint">Loading…</p>;
  const { progress, receipts, words, madeBy, preview } = data;
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="border-b border-line-strong bg-surface px-3.5 py-2.5">
        <h1 className="text-[18px] font-semibold">
          Docket of {countWords(receipts.length, "change")}: {stateWords(progress)}
        </h1>
        <p className="text-ink-soft">
          {progress.counts.done} done, {progress.counts.failed} failed, {progress.counts["set-aside"]} set aside,{" "}
          {progress.counts.staged + progress.counts.sending} to do. Put together by {madeBy}
          {words && `: ${words}`}.
        </p>
        {progress.counts["by-hand"] > 0 && (
          <p className="mt-1">
            {countWords(progress.counts["by-hand"], "change")} to be done by hand, in stores that are known from a file
            only.{" "}
            <Link href={`/ledger/dockets/${id}/by-hand`} className="text-verdigris underline">
              What there is to do, by owner
            </Link>
          </p>
        )}
        {preview && <Waiting id={id} count={receipts.length} preview={preview} />}
      </header>
      {preview && <PreviewParts preview={preview} />}
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
              <ReceiptRow key={receipt.subject} docketId={id} receipt={receipt} />
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** A docket is not over as long as somebody has something to do. */
function stateWords({ state, counts }: DocketProgress): string {
  return state === "done" && counts["by-hand"] > 0 ? "the rest is to be done by hand" : state;
}

/** A docket that a rule put together: it is applied, or sent away. */
function Waiting({ id, count, preview }: { id: string; count: number; preview: Preview }) {
  const { viewer } = useStandpoint();
  const { act, problem } = useTray();
  const client = useQueryClient();
  const done = () => client.invalidateQueries({ queryKey: ["docket", id] });
  return (
    <div className="mt-2 flex items-center gap-3">
      <p className="grow">{previewWords(preview)}</p>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {viewer.mayChange && (
        <>
          <Button onClick={() => act.mutate({ docketId: id, act: "drop" }, { onSuccess: done })}>Send it away</Button>
          <ConfirmApply
            preview={preview}
            count={count}
            apply={async () => {
              await act.mutateAsync({ docketId: id, act: "apply" });
              await done();
            }}
          />
        </>
      )}
    </div>
  );
}

function ReceiptRow({ docketId, receipt }: { docketId: string; receipt: Receipt }) {
  const { change, state, tries } = receipt;
  const { viewer } = useStandpoint();
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
      <td className="px-3.5 py-1.5">
        {receipt.answer}
        {state === "by-hand" && viewer.mayChange && <SayDone docketId={docketId} subject={receipt.subject} />}
        {receipt.passphrase && viewer.mayChange && (
          <ShowOnce show={() => api(`/api/passphrases/${receipt.passphrase}`, { method: "POST", body: {} })} />
        )}
      </td>
      <td className="px-3.5 py-1.5">{receipt.probe}</td>
      <td className="px-3.5 py-1.5 whitespace-nowrap">{receipt.answeredAt && momentWords(receipt.answeredAt)}</td>
    </tr>
  );
}

/** Whoever has done a change in its store themselves says so; it can't be unsaid, but the next import shows how it is. */
function SayDone({ docketId, subject }: { docketId: string; subject: string }) {
  const client = useQueryClient();
  const say = useMutation({
    mutationFn: () => api(`/api/dockets/${docketId}/by-hand`, { method: "POST", body: { subject } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["docket", docketId] }),
  });
  return (
    <span className="block">
      <button
        type="button"
        onClick={() => say.mutate()}
        disabled={say.isPending}
        className="text-verdigris underline"
        aria-label={`${subject} is done`}
      >
        I have done it
      </button>
      {say.error && <Notice tone="wrong">{say.error.message}</Notice>}
    </span>
  );
}
