"use client";

import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { parseAsString, useQueryState } from "nuqs";
import { docketsOperations } from "@/contract/dockets";
import { type Checkpoints, ledgerOperations } from "@/contract/ledger";
import type { Proof } from "@/core/ledger/check";
import { spelledToday } from "@/core/ledger/spelling";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords, plainWords } from "../parts/words";
import { useCheckpoints } from "./useCheckpoints";

/** What was decided and done, by whom; at the head, whether the record is whole. */
export function LedgerScreen() {
  const dates = useDates();
  const [q, setQ] = useQueryState("q", parseAsString.withDefault(""));
  const pages = useInfiniteQuery({
    queryKey: [...keyOf(ledgerOperations.entries), q],
    queryFn: ({ pageParam, signal }) => ask(ledgerOperations.entries, { query: { before: pageParam, q }, signal }),
    initialPageParam: Number.MAX_SAFE_INTEGER,
    getNextPageParam: ({ next }) => next,
    placeholderData: keepPreviousData,
  });
  const entries = pages.data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_260px] xl:grid-cols-[minmax(0,1fr)_360px]">
      <div className="flex min-h-0 flex-col bg-raised">
        <h1 className="sr-only">Ledger</h1>
        <ProofHead />
        <input
          type="search"
          aria-label="Search the ledger"
          placeholder="Search the ledger: a name, an address, what was done"
          value={q}
          maxLength={200}
          onChange={(event) => void setQ(event.target.value || null)}
          className="m-3.5 mb-1.5 h-[30px] max-w-xl shrink-0 rounded-[3px] border border-control bg-raised px-2.5"
        />
        <div className="overflow-auto" tabIndex={0}>
          {pages.error && <Notice tone="wrong">{pages.error.message}</Notice>}
          {pages.data && entries.length === 0 && q !== "" && (
            <p className="px-3.5 py-2 text-ink-soft">
              No entries found for “{q}”. Try part of a name or address, or a word such as “docket” or “rule”.
            </p>
          )}
          <table className="w-full" aria-busy={pages.isPlaceholderData}>
            <thead className="sticky top-0 bg-raised text-left text-[12px] text-ink-faint">
              <tr>
                <th className="w-20 px-3.5 py-1.5 text-right font-semibold">Entry</th>
                <th className="w-40 px-2 font-semibold">When (UTC)</th>
                <th className="w-56 px-2 font-semibold">Who</th>
                <th className="px-2 font-semibold">What</th>
                <th className="w-32 px-2 font-semibold">Hash</th>
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => (
                <tr key={entry.seq} className="border-t border-line align-top">
                  <td className="px-3.5 py-1.5 text-right tabular-nums">{entry.seq.toLocaleString("en-GB")}</td>
                  <td className="px-2 py-1.5 whitespace-nowrap">{dates.utc(entry.at)}</td>
                  <td className="px-2 py-1.5 break-all">{entry.actor}</td>
                  <td className="px-2 py-1.5">
                    <b className="font-semibold">{plainWords(spelledToday(entry.kind))}</b>
                    <span className="block text-[12.5px] wrap-anywhere text-ink-faint">{bodyWords(entry.body)}</span>
                  </td>
                  <td className="px-2 py-1.5 font-mono text-[12px]" title={entry.hash}>
                    {entry.hash.slice(0, 12)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {pages.hasNextPage && (
            <Button className="m-3.5" onClick={() => pages.fetchNextPage()}>
              Show older entries
            </Button>
          )}
        </div>
      </div>
      <DocketList />
    </div>
  );
}

/** What an entry holds, field by field; the whole of it is in the database. */
function bodyWords(body: unknown): string {
  if (typeof body !== "object" || body === null) return String(body);
  return Object.entries(body)
    .filter(([, value]) => value !== null && value !== "")
    .map(([name, value]) => `${plainWords(inWords(name))}: ${valueWords(value)}`)
    .join("; ");
}

/** `shareId` as `share id`. */
function inWords(name: string): string {
  return name.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
}

function valueWords(value: unknown): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return value.toLocaleString("en-GB");
  if (Array.isArray(value)) return value.length.toLocaleString("en-GB");
  if (typeof value === "object" && value !== null) return `(${bodyWords(value)})`;
  return String(value);
}

function ProofHead() {
  const proof = useQuery(asked(ledgerOperations.proof));
  const { data: checkpoints } = useCheckpoints();
  return (
    <div className="flex items-center gap-4 border-b border-line-strong bg-surface px-3.5 py-2.5">
      <div className="grow">
        <p role="status" className="text-[15px]">
          {proof.isFetching ? (
            "Checking every entry."
          ) : proof.error ? (
            <span className="text-oxide">{proof.error.message}</span>
          ) : (
            proof.data && <ProofWords proof={proof.data} />
          )}
        </p>
        {checkpoints && <WitnessWords checkpoints={checkpoints} />}
      </div>
      <Button onClick={() => proof.refetch()} disabled={proof.isFetching}>
        Verify again
      </Button>
    </div>
  );
}

function ProofWords({ proof }: { proof: Proof }) {
  if (!proof.unbroken)
    return (
      <b className="font-semibold text-oxide">
        Broken at entry {proof.seq.toLocaleString("en-GB")}: {proof.why}.
      </b>
    );
  return (
    <>
      <b className="font-semibold text-verdigris">{proof.entries.toLocaleString("en-GB")} entries, unbroken.</b> Root{" "}
      <code className="font-mono text-[12.5px]">{proof.root.slice(0, 16)}</code>
    </>
  );
}

/** Whether somebody outside could tell if the ledger were rewritten. */
function WitnessWords({ checkpoints: { newest, witnesses } }: { checkpoints: Checkpoints }) {
  const dates = useDates();
  const [latest] = witnesses.filter(({ sentAt }) => sentAt !== null).sort((a, b) => b.sentSize - a.sentSize);
  const words = !newest
    ? "No checkpoint has been made yet."
    : latest
      ? `Held by witnesses up to entry ${latest.sentSize.toLocaleString("en-GB")} (${countWords(witnesses.length, "witness", "witnesses")}), since ${dates.moment(latest.sentAt!)}.`
      : "No witness holds a checkpoint yet, so anyone who can write to the database could rewrite the whole ledger.";
  return (
    <p className="text-ink-soft">
      {words}{" "}
      <Link href="/ledger/witnesses" className="text-verdigris underline">
        Witnesses
      </Link>
      {" · "}
      <Link href="/ledger/packs" className="text-verdigris underline">
        Evidence packs
      </Link>
      {" · "}
      <Link href="/ledger/reports" className="text-verdigris underline">
        Reports
      </Link>
    </p>
  );
}

function DocketList() {
  const dates = useDates();
  const { data, error } = useQuery(asked(docketsOperations.dockets));
  const dockets = data?.dockets ?? [];
  return (
    <section className="overflow-y-auto border-l border-line-strong bg-surface px-4 py-3">
      <h2 className="mb-2 font-semibold">Dockets</h2>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && dockets.length === 0 && (
        <p className="text-ink-soft">No docket has been applied yet. Changes staged in the register become one.</p>
      )}
      <ul>
        {dockets.map((docket) => (
          <li key={docket.id} className="border-t border-line py-2">
            <Link href={`/ledger/dockets/${docket.id}`} className="text-verdigris underline">
              {docket.name ?? (docket.appliedAt ? `Docket of ${dates.moment(docket.appliedAt)}` : docket.id)}
            </Link>
            <span className="block text-ink-faint">
              {docket.state === "dropped" ? "Discarded" : plainWords(docket.state)}, by {docket.madeBy}
              {docket.appliedAt && `, ${dates.moment(docket.appliedAt)}`}
            </span>
            {docket.reason && <span className="block wrap-anywhere text-ink-soft">{docket.reason}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
