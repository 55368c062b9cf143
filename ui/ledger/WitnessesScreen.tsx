"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type Checkpoints, ledgerOperations } from "@/contract/ledger";
import type { Witness } from "@/core/evidence/witness";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { AddWitness } from "./AddWitness";
import { UnderLedger } from "./UnderLedger";
import { useCheckpoints } from "./useCheckpoints";
import { WITNESS_WORDS } from "./words";

/** Where checkpoints of the ledger go, so that nobody who can write the database can rewrite it unseen. */
export function WitnessesScreen() {
  const { viewer } = useStandpoint();
  const { data, error } = useCheckpoints();
  return (
    <UnderLedger
      title="Witnesses"
      about="A checkpoint is a signed statement of the ledger’s size and contents. If it is kept where nobody here can change it, any later rewriting or shortening of the ledger shows. One is made on every day with new entries, and whenever a docket or a round closes."
      error={error}
    >
      {data && (
        <>
          <WitnessTable checkpoints={data} />
          {viewer.mayChange && <AddWitness />}
          <Newest checkpoints={data} />
          <Keys keys={data.keys} />
        </>
      )}
    </UnderLedger>
  );
}

function WitnessTable({ checkpoints: { witnesses, newest } }: { checkpoints: Checkpoints }) {
  if (witnesses.length === 0)
    return (
      <Notice>
        There are no witnesses yet: anyone who can write to the database could rewrite the ledger unseen. Add a witness
        here, or set LATCH_WITNESSES to keep checkpoints in a folder.
      </Notice>
    );
  return (
    <table className="mt-4 w-full max-w-5xl">
      <thead className="text-left text-[12px] text-ink-faint">
        <tr>
          <th className="py-1 pr-3 font-semibold">Witness</th>
          <th className="px-3 font-semibold">Where</th>
          <th className="px-3 font-semibold">Holds entries up to</th>
          <th className="px-3">
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {witnesses.map((witness) => (
          <WitnessRow key={witness.id} witness={witness} newest={newest?.size ?? 0} />
        ))}
      </tbody>
    </table>
  );
}

function WitnessRow({ witness, newest }: { witness: Witness; newest: number }) {
  const { viewer } = useStandpoint();
  const dates = useDates();
  const client = useQueryClient();
  const { id, kind, to, sentSize, sentAt, error } = witness;
  const remove = useMutation({
    mutationFn: () => ask(ledgerOperations.removeWitness, { body: { id } }),
    onSuccess: (told) => client.setQueryData(asked(ledgerOperations.checkpoints).queryKey, told),
  });
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-2 pr-3 text-left font-semibold">
        {WITNESS_WORDS[kind].title}
      </th>
      <td className="px-3 py-2 wrap-anywhere">{to || WITNESS_WORDS[kind].where}</td>
      <td className="px-3 py-2">
        {sentAt === null ? (
          <span className="text-ink-faint">nothing yet</span>
        ) : (
          <>
            entry {sentSize.toLocaleString("en-GB")}, since {dates.moment(sentAt)}
            {sentSize < newest && error === null && (
              <span className="block text-[12px] text-ink-faint">
                {countWords(newest - sentSize, "entry more follows", "entries more follow")} with the next one
              </span>
            )}
          </>
        )}
        {error && <span className="block text-oxide">{error} It is tried again.</span>}
      </td>
      <td className="px-3 py-1.5 text-right">
        {viewer.mayChange && kind !== "folder" && (
          <Button disabled={remove.isPending} onClick={() => remove.mutate()}>
            Remove<span className="sr-only"> {to || WITNESS_WORDS[kind].title}</span>
          </Button>
        )}
        {kind === "folder" && <span className="text-[12px] text-ink-faint">set by LATCH_WITNESSES</span>}
        {remove.error && <Notice tone="wrong">{remove.error.message}</Notice>}
      </td>
    </tr>
  );
}

function Newest({ checkpoints: { newest, count } }: { checkpoints: Checkpoints }) {
  const dates = useDates();
  if (!newest) return null;
  return (
    <section aria-labelledby="newest" className="mt-8 max-w-3xl">
      <h2 id="newest" className="text-[17px] font-semibold">
        The newest checkpoint
      </h2>
      <p className="text-ink-soft">
        Of {countWords(newest.size, "entry", "entries")}, made {dates.moment(newest.at)};{" "}
        {countWords(count, "checkpoint is", "checkpoints are")} kept here.{" "}
        <a
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(newest.note)}`}
          download={`${newest.size}.txt`}
          className="text-verdigris underline"
        >
          Download it
        </a>
      </p>
      <pre className="mt-2 border border-line bg-surface p-3 font-mono text-[12.5px] wrap-anywhere whitespace-pre-wrap">
        {newest.note}
      </pre>
    </section>
  );
}

function Keys({ keys }: { keys: readonly string[] }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const change = useMutation({
    mutationFn: () => ask(ledgerOperations.changeLedgerKey, { body: {} }),
    onSuccess: (told) => client.setQueryData(asked(ledgerOperations.checkpoints).queryKey, told),
  });
  if (keys.length === 0) return null;
  return (
    <section aria-labelledby="keys" className="mt-8 max-w-3xl">
      <h2 id="keys" className="text-[17px] font-semibold">
        Signing keys
      </h2>
      <p className="text-ink-soft">
        To check a checkpoint or a pack, compare its key with this line. Give it to auditors separately.
      </p>
      <ol className="mt-2">
        {keys.map((line, i) => (
          <li key={line} className="mb-1">
            <code className="font-mono text-[12.5px] wrap-anywhere">{line}</code>
            {i > 0 && <span className="text-ink-faint"> (an earlier one)</span>}
          </li>
        ))}
      </ol>
      {viewer.mayChange && (
        <p className="mt-2 flex items-center gap-3">
          <Button disabled={change.isPending} onClick={() => change.mutate()}>
            Use a new key
          </Button>
          <span className="text-ink-soft">
            The next checkpoint is signed with both keys, and this one stays listed.
          </span>
        </p>
      )}
      {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
    </section>
  );
}
