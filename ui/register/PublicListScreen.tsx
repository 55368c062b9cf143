"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { registerOperations } from "@/contract/register";
import { shareOperations } from "@/contract/share";
import { addressOf } from "@/contract/address";
import type { RegisterRow } from "@/core/register/columns";
import { noReason, type PublicShare, type WhyOpen, whyOpen } from "@/core/register/publicList";
import type { Note, WaiverView } from "@/core/register/remarks";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { PrintButton } from "../parts/PrintButton";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";

interface Answer {
  shares: PublicShare[];
  notes: Note[];
  waivers: WaiverView[];
}

/** Everything that anyone can open who holds an address: why, until when, and who answers for it. */
export function PublicListScreen() {
  const dates = useDates();
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
          Export CSV
        </a>
        <PrintButton />
      </div>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {!data && !error && <Loading className="mt-3" />}
      {data && (
        <>
          <p className="mt-1 text-ink-soft">
            {countWords(data.shares.length, "link")} that can be used by whoever has the address, as of{" "}
            {dates.zoned(now)}. The addresses themselves aren’t listed: see each link’s details.
          </p>
          {data.shares.length > 0 && <PublicTable answer={data} past={past} />}
        </>
      )}
    </div>
  );
}

function PublicTable({ answer: { shares, notes, waivers }, past }: { answer: Answer; past: string | null }) {
  const dates = useDates();
  const { viewer } = useStandpoint();
  return (
    <table className="mt-4 w-full table-fixed border-collapse text-left">
      <thead>
        <tr className="border-b border-line-strong text-[12px] text-ink-faint">
          <th className="w-[26%] py-1 pr-3 font-semibold">Item</th>
          <th className="w-[25%] py-1 pr-3 font-semibold">How it is shared</th>
          <th className="w-[27%] py-1 pr-3 font-semibold">Why</th>
          <th className="w-[9%] py-1 pr-3 font-semibold">Until</th>
          <th className="py-1 font-semibold">Responsible</th>
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
              <Why row={row} why={whyOpen(row, waivers, notes)} mayWrite={viewer.mayChange} />
            </td>
            <td className="py-1.5 pr-3 tabular-nums">{dates.end(row.expires)}</td>
            <td className="py-1.5">
              {answers ? answers.name : <b className="font-semibold text-copper">nobody still here</b>}
              {answers && <span className="block text-[12px] text-ink-faint">its {answers.as}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Why({ row, why, mayWrite }: { row: RegisterRow; why: readonly WhyOpen[]; mayWrite: boolean }) {
  if (why.length === 0)
    return (
      <>
        <span className="text-copper">{noReason(row)}</span>
        {mayWrite && <WriteReason row={row} />}
      </>
    );
  return why.map(({ words, waivedUntil }) => (
    <span key={words} className="block">
      {words} {waivedUntil && <span className="text-[12px] text-ink-faint">waived until {waivedUntil}</span>}
    </span>
  ));
}

/** Writes the missing reason, as a note on the share. */
function WriteReason({ row }: { row: RegisterRow }) {
  const [text, setText] = useState<string | null>(null);
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (text: string) => ask(shareOperations.leaveNote, { params: { id: row.id }, body: { text } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(registerOperations.publicList) }),
  });
  if (text === null)
    return (
      <button type="button" onClick={() => setText("")} className="on-paper-none block text-verdigris underline">
        Add a reason<span className="sr-only"> for {row.itemName}</span>
      </button>
    );
  return (
    <form
      className="on-paper-none mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(text);
      }}
    >
      <textarea
        // It takes the place of the button that was pressed.
        autoFocus
        aria-label={`Reason why ${row.itemName} is open to anyone`}
        required
        rows={2}
        maxLength={2_000}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="block w-full rounded-[3px] border border-control bg-raised px-1.5 py-1"
      />
      <span className="mt-1 flex gap-2">
        <Button type="submit" look="act" disabled={save.isPending}>
          Save
        </Button>
        <Button onClick={() => setText(null)}>Cancel</Button>
      </span>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </form>
  );
}
