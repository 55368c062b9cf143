"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addressOf } from "@/contract/address";
import { type KeptPack, ledgerOperations, type Packs } from "@/contract/ledger";
import { DAY, seconds, utcDay } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { UnderLedger } from "./UnderLedger";

const MEGABYTE = 1_000_000;
const USUAL_SPAN = 30 * DAY;

/** Evidence packs: what an auditor takes along, and can check without us. */
export function PacksScreen() {
  const { data, error } = useQuery({
    ...asked(ledgerOperations.packs),
    refetchInterval: ({ state }) => (state.data?.making ? 1_000 : false),
  });
  return (
    <UnderLedger
      title="Evidence packs"
      about={
        <>
          A pack is a ZIP file with what was shared on its first and last day, what happened and was decided between
          them, and the ledger with its proofs. It can be checked with openssl, with the page inside it, or with{" "}
          <code>latch verify</code>. It names outsiders or uses pseudonyms for them, as you choose; it never contains
          the addresses of links.
        </>
      }
      error={error}
    >
      {data && (
        <>
          {data.making ? <Making making={data.making} /> : <MakePack failure={data.failure} />}
          <PackTable packs={data.packs} isMaking={data.making !== null} />
        </>
      )}
    </UnderLedger>
  );
}

/** What each act gives is what is so after it. */
function useTold() {
  const client = useQueryClient();
  return { onSuccess: (told: Packs) => client.setQueryData(asked(ledgerOperations.packs).queryKey, told) };
}

function MakePack({ failure }: { failure: string | null }) {
  const { now } = useStandpoint();
  const days = useDates("UTC");
  const rules = { now, edge: "start", toward: "past", max: now, zone: "UTC", wholeDays: true } as const;
  const from = useMoment(days.day(now - USUAL_SPAN), rules);
  const to = useMoment(days.day(now), rules);
  const [scope, setScope] = useState("");
  const [pseudonyms, setPseudonyms] = useState(false);
  const told = useTold();
  const make = useMutation({
    mutationFn: () =>
      ask(ledgerOperations.makePack, { body: { from: utcDay(from.at!), to: utcDay(to.at!), scope, pseudonyms } }),
    ...told,
  });
  return (
    <form
      className="mt-4 max-w-2xl"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <div className="flex gap-4">
        <MomentField label="First day, in UTC" moment={from} />
        <MomentField label="Last day, in UTC" moment={to} />
      </div>
      <Field
        label="Limit to this query (leave empty for everything)"
        maxLength={2_000}
        value={scope}
        placeholder="store:stacks label:restricted"
        onChange={(event) => setScope(event.target.value)}
      />
      <label className="mb-3 flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={pseudonyms}
          onChange={(event) => setPseudonyms(event.target.checked)}
        />
        <span>
          Use pseudonyms for outsiders
          <span className="block text-[12.5px] text-ink-soft">
            The key stays here. Free text is left out; the names of items and groups are kept.
          </span>
        </span>
      </label>
      <Button type="submit" look="act" disabled={make.isPending || from.at === null || to.at === null}>
        Make pack
      </Button>
      {make.error && <Notice tone="wrong">{make.error.message}</Notice>}
      {failure && <Notice tone="wrong">The last pack couldn’t be made: {failure}</Notice>}
    </form>
  );
}

function Making({ making: { from, to, file, done, of } }: { making: NonNullable<Packs["making"]> }) {
  const told = useTold();
  const at = Math.min(done, of);
  const stop = useMutation({ mutationFn: () => ask(ledgerOperations.stopPack, { body: {} }), ...told });
  return (
    <div className="mt-4 max-w-2xl">
      <p role="status">
        Making the pack of {from} to {to}
        {file && `: ${file}`}
      </p>
      <div className="mt-2 flex items-center gap-3">
        <div
          role="progressbar"
          aria-label="Progress of the pack"
          aria-valuemin={0}
          aria-valuemax={of}
          aria-valuenow={at}
          className="h-2 grow rounded-[2px] border border-control bg-surface"
        >
          <div className="h-full bg-verdigris" style={{ width: `${(100 * at) / of}%` }} />
        </div>
        <Button disabled={stop.isPending} onClick={() => stop.mutate()}>
          Stop
        </Button>
      </div>
      <p className="mt-1 text-[12.5px] text-ink-soft">You can leave this page.</p>
    </div>
  );
}

function PackTable({ packs, isMaking }: { packs: readonly KeptPack[]; isMaking: boolean }) {
  const dates = useDates();
  const days = useDates("UTC");
  const dayWords = (day = "") => days.day(seconds(`${day}T00:00:00Z`));
  if (packs.length === 0) return <p className="mt-6 text-ink-soft">No pack has been made yet.</p>;
  return (
    <table className="mt-6 w-full max-w-5xl">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="py-1 pr-3 font-semibold">Span</th>
          <th className="px-3 font-semibold">About</th>
          <th className="px-3 font-semibold">Made</th>
          <th className="px-3 text-right font-semibold">Entry</th>
          <th className="px-3 text-right font-semibold">File</th>
        </tr>
      </thead>
      <tbody>
        {packs.map(({ seq, at, by, from, to, scope, pseudonyms, bytes }, i) => (
          <tr key={seq} className="border-t border-line align-top">
            <th scope="row" className="py-2 pr-3 text-left font-normal whitespace-nowrap">
              {dayWords(from)} to {dayWords(to)}
            </th>
            <td className="px-3 py-2 wrap-anywhere">
              {scope === "" ? "everything" : <code>{scope}</code>}
              {pseudonyms && <span className="block text-[12px] text-ink-faint">with pseudonyms for outsiders</span>}
            </td>
            <td className="px-3 py-2">
              {dates.moment(at)}
              <span className="block text-[12px] text-ink-faint">{by}</span>
            </td>
            <td className="px-3 py-2 text-right tabular-nums">{seq.toLocaleString("en-GB")}</td>
            <td className="px-3 py-2 text-right whitespace-nowrap">
              {bytes === null ? (
                <span className="text-ink-faint">{isMaking && i === 0 ? "being written" : "no longer kept"}</span>
              ) : (
                <a
                  href={addressOf(ledgerOperations.packFile, { params: { seq: String(seq) } })}
                  className="text-verdigris underline"
                  download
                >
                  {(bytes / MEGABYTE).toLocaleString("en-GB", { maximumFractionDigits: 1 })} MB
                  <span className="sr-only"> of entry {seq}</span>
                </a>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
