"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { docketsOperations } from "@/contract/dockets";
import { changeWords } from "@/core/changes/changeWords";
import type { Receipt } from "@/core/preview/docketView";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";
import { Link } from "../parts/Link";
import { MarkAllBox, MarkBox } from "../parts/MarkBox";
import { Notice } from "../parts/Notice";
import { ShowOnce } from "../parts/ShowOnce";
import { useDates } from "../parts/useDates";
import type { Marking } from "../parts/useMarking";
import { listWords, plainWords } from "../parts/words";

interface Props {
  docketId: string;
  receipts: readonly Receipt[];
  /** Which are marked, to be undone; null where nothing can be. */
  marking: Marking<string> | null;
}

/** Whether a change was done and is not being undone. */
export function canBeUndone({ state, undone }: Receipt): boolean {
  return state === "done" && undone === null;
}

/** A receipt for each change: what was sent, what came back, what a look afterwards found. */
export function ReceiptTable({ docketId, receipts, marking }: Props) {
  const titles = ["Share", "Change", "State", "The store\u2019s answer", "Probe", "When (UTC)"];
  return (
    <table className="w-full">
      <thead className="sticky top-0 bg-raised text-left text-[12px] text-ink-faint">
        <tr>
          {marking && (
            <th className="w-8 py-1.5 pl-3.5">
              <MarkAllBox marking={marking} />
            </th>
          )}
          {titles.map((title) => (
            <th key={title} className="px-3.5 py-1.5 font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {receipts.map((receipt) => (
          <ReceiptRow key={receipt.subject} docketId={docketId} receipt={receipt} marking={marking} />
        ))}
      </tbody>
    </table>
  );
}

interface RowProps {
  docketId: string;
  receipt: Receipt;
  marking: Marking<string> | null;
}

function ReceiptRow({ docketId, receipt, marking }: RowProps) {
  const dates = useDates();
  const { change, state, tries } = receipt;
  const { viewer } = useStandpoint();
  return (
    <tr className="border-t border-line align-top">
      {marking && (
        <td className="py-2 pl-3.5">
          <MarkBox marking={marking} id={receipt.subject} label={`${receipt.subject} to be undone`} />
        </td>
      )}
      <td className="px-3.5 py-1.5">
        {receipt.itemName}
        <span className="block text-[12px] text-ink-faint">
          {receipt.audience}, <span className="font-mono">{receipt.subject}</span>
        </span>
      </td>
      <td className="px-3.5 py-1.5 whitespace-nowrap">{changeWords(change)}</td>
      <td className={clsx("px-3.5 py-1.5 whitespace-nowrap", state === "failed" && "font-semibold text-oxide")}>
        {receipt.undone ? (
          <Link href={`/ledger/dockets/${receipt.undone.docketId}`} className="text-verdigris underline">
            {receipt.undone.isOver ? "Undone" : "To undo"}
          </Link>
        ) : (
          plainWords(state)
        )}
        {tries > 1 && <span className="block text-[12px] text-ink-faint">{tries} tries</span>}
      </td>
      <td className="px-3.5 py-1.5">
        {receipt.answer}
        {receipt.tell.length > 0 && (
          <span className="block">Its new address has to be sent to {listWords(receipt.tell)}.</span>
        )}
        {state === "by-hand" && viewer.mayChange && <SayDone docketId={docketId} subject={receipt.subject} />}
        {receipt.passphrase && viewer.mayChange && (
          <ShowOnce show={() => ask(docketsOperations.showPassphrase, { params: { id: receipt.passphrase! } })} />
        )}
      </td>
      <td className={clsx("px-3.5 py-1.5", state === "done" && !receipt.isChecked && "font-semibold text-oxide")}>
        {receipt.probe}
        <Sent receipt={receipt} />
      </td>
      <td className="px-3.5 py-1.5 whitespace-nowrap">{receipt.answeredAt && dates.utc(receipt.answeredAt)}</td>
    </tr>
  );
}

/** What was sent, and what came back, word for word. */
function Sent({ receipt: { request, response, subject } }: { receipt: Receipt }) {
  return (
    <details>
      <summary className="cursor-default text-[12px] text-verdigris underline">
        What was sent and answered<span className="sr-only"> for {subject}</span>
      </summary>
      <pre className="max-w-[46ch] overflow-x-auto font-mono text-[11.5px] whitespace-pre-wrap">
        {`Sent: ${request}\nAnswered: ${response ?? "nothing"}`}
      </pre>
    </details>
  );
}

/** Whoever has done a change in its store themselves says so; it can't be unsaid, but the next import shows how it is. */
function SayDone({ docketId, subject }: { docketId: string; subject: string }) {
  const client = useQueryClient();
  const say = useMutation({
    mutationFn: () => ask(docketsOperations.sayDone, { params: { id: docketId }, body: { subject } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(docketsOperations.docket, { id: docketId }) }),
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
        Mark as done
      </button>
      {say.error && <Notice tone="wrong">{say.error.message}</Notice>}
    </span>
  );
}
