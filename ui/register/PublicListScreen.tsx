"use client";

import { useQuery } from "@tanstack/react-query";
import Link from "next/link";
import { registerOperations } from "@/contract/register";
import { addressOf } from "@/contract/address";
import type { RegisterRow } from "@/core/register/columns";
import { noReason, type PublicShare, type WhyOpen, whyOpen } from "@/core/register/publicList";
import type { Note, WaiverView } from "@/core/register/remarks";
import { NEVER, rfc3339 } from "@/core/time/instant";
import { asOf, useStandpoint } from "../frame/viewer";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { countWords, dayWords, momentWords } from "../parts/words";
import { asked } from "../parts/ask";

interface Answer {
  shares: PublicShare[];
  notes: Note[];
  waivers: WaiverView[];
}

/** Everything that anyone can open who holds an address: why, until when, and who answers for it. */
export function PublicListScreen() {
  const { past, now } = useStandpoint();
  const { data, error } = useQuery({
    ...asked(registerOperations.publicList, { past }),
  });
  return (
    <div className="h-full overflow-y-auto bg-raised p-6">
      <div className="flex items-baseline gap-4">
        <h1 className="text-[18px] font-semibold">What is open to anyone</h1>
        <Link href={asOf("/register", past)} className="on-paper-none text-verdigris underline">
          Back to the register
        </Link>
        <span className="grow" />
        <a
          href={addressOf(registerOperations.publicTable, { past })}
          className="on-paper-none text-verdigris underline"
          download
        >
          As CSV
        </a>
        <PrintButton />
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading className="mt-3" />}
      {data && (
        <>
          <p className="mt-1 text-ink-soft">
            {countWords(data.shares.length, "link")} that anyone who has the address can use, as of{" "}
            {momentWords(rfc3339(now))} UTC. The addresses themselves aren’t listed: each stands in its link’s details.
          </p>
          {data.shares.length > 0 && <PublicTable answer={data} past={past} />}
        </>
      )}
    </div>
  );
}

function PublicTable({ answer: { shares, notes, waivers }, past }: { answer: Answer; past: string | null }) {
  return (
    <table className="mt-4 w-full table-fixed border-collapse text-left">
      <thead>
        <tr className="border-b border-line-strong text-[12px] text-ink-faint">
          <th className="w-[26%] py-1 pr-3 font-semibold">Item</th>
          <th className="w-[25%] py-1 pr-3 font-semibold">How it is shared</th>
          <th className="w-[27%] py-1 pr-3 font-semibold">Why</th>
          <th className="w-[9%] py-1 pr-3 font-semibold">Until</th>
          <th className="py-1 font-semibold">Answers for it</th>
        </tr>
      </thead>
      <tbody>
        {shares.map(({ row, sentence, answers }) => (
          <tr key={row.id} className="break-inside-avoid border-b border-line align-top">
            <td className="py-1.5 pr-3">
              <Link href={asOf(`/register?share=${encodeURIComponent(row.id)}`, past)} className="underline">
                {row.itemName}
              </Link>
              <span className="block text-[12px] text-ink-faint">{[row.storeName, ...row.place].join(" / ")}</span>
            </td>
            <td className="py-1.5 pr-3">{sentence}</td>
            <td className="py-1.5 pr-3">
              <Why row={row} why={whyOpen(row, waivers, notes)} />
            </td>
            <td className="py-1.5 pr-3 tabular-nums">{row.expires === NEVER ? "no end" : dayWords(row.expires)}</td>
            <td className="py-1.5">
              {answers ? answers.name : <b className="font-semibold text-copper">nobody who is still here</b>}
              {answers && <span className="block text-[12px] text-ink-faint">its {answers.as}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Why({ row, why }: { row: RegisterRow; why: readonly WhyOpen[] }) {
  if (why.length === 0) return <span className="text-copper">{noReason(row)}</span>;
  return why.map(({ words, waivedUntil }) => (
    <span key={words} className="block">
      {words} {waivedUntil && <span className="text-[12px] text-ink-faint">waived until {waivedUntil}</span>}
    </span>
  ));
}
