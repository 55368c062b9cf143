"use client";

import { docketsOperations } from "@/contract/dockets";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { parseAsInteger, parseAsStringLiteral, useQueryStates } from "nuqs";
import { changeWords } from "@/core/changes/changeWords";
import {
  CHANGE_STATES,
  type ChangeState,
  type DocketProgress,
  isClosed,
  type StagedChange,
} from "@/core/changes/states";
import type { DocketView } from "@/core/preview/docketView";
import { PreviewParts } from "../frame/PreviewParts";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { HeldStores } from "../parts/HeldStores";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useBoxKeys, useMarking } from "../parts/useMarking";
import { countWords, plainWords } from "../parts/words";
import { canBeUndone, ReceiptTable } from "./ReceiptTable";
import { Undo } from "./Undo";
import { Waiting } from "./Waiting";

const PAGE = 200;

/** One docket: what it would do as long as it waits, and a receipt for each change once it has been applied. */
export function DocketScreen({ id }: { id: string }) {
  const { viewer } = useStandpoint();
  const [{ state, from }, setShown] = useQueryStates({
    state: parseAsStringLiteral(CHANGE_STATES),
    from: parseAsInteger.withDefault(0),
  });
  const { data, error } = useQuery({
    ...asked(docketsOperations.docket, { params: { id }, query: { state, from: from || undefined } }),
    refetchInterval: ({ state }) => (state.data?.progress.state === "applying" ? 1_000 : false),
  });
  const mayUndo = viewer.mayChange && data?.progress.state === "done" && data.progress.counts.done > 0;
  const marking = useMarking(mayUndo ? data.receipts.filter(canBeUndone).map(({ subject }) => subject) : []);
  const onKeyDown = useBoxKeys(marking, "receipts");
  if (error)
    return (
      <div className="p-6">
        <Notice tone="wrong">{error.message}</Notice>
      </div>
    );
  if (!data) return <Loading className="p-6" />;
  const { progress, receipts, preview, found } = data;
  return (
    <div className="flex h-full flex-col bg-raised">
      <header className="border-b border-line-strong bg-surface px-3.5 py-2.5">
        <Heading view={data} />
        <HeldStores held={progress.held} />
        {progress.counts["by-hand"] > 0 && (
          <p className="mt-1">
            {countWords(progress.counts["by-hand"], "change")} to be done by hand.{" "}
            <Link href={`/ledger/dockets/${id}/by-hand`} className="text-verdigris underline">
              See what to do, by owner
            </Link>
          </p>
        )}
        {data.passphrases > 0 && viewer.mayChange && (
          <p className="mt-1">
            {countWords(data.passphrases, "passphrase waits", "passphrases wait")} to hand over.{" "}
            <Link href={`/ledger/dockets/${id}/passphrases`} className="text-verdigris underline">
              Hand them over, by owner
            </Link>
          </p>
        )}
        {viewer.mayChange && <Leftover id={id} progress={progress} />}
        {mayUndo && <Undo id={id} marked={[...marking.marked]} onDone={marking.clear} />}
        {preview && <Waiting id={id} view={data} preview={preview} />}
      </header>
      {preview && (
        <div className="max-h-[55%] min-h-0 shrink-0 overflow-y-auto border-b border-line-strong">
          <PreviewParts preview={preview} />
        </div>
      )}
      {!preview && (
        <StateLine progress={progress} state={state} onState={(state) => void setShown({ state, from: 0 })} />
      )}
      <div
        id="receipts"
        // Changes that wait can’t have the focus; without one they could not be scrolled by keys.
        tabIndex={preview ? 0 : undefined}
        onKeyDown={onKeyDown}
        className="min-h-0 grow overflow-y-auto"
      >
        {preview ? (
          <ChangeList changes={receipts} />
        ) : (
          <ReceiptTable docketId={id} receipts={receipts} marking={mayUndo ? marking : null} />
        )}
        {found > PAGE && <Pages from={from} found={found} onFrom={(from) => void setShown({ from })} />}
      </div>
    </div>
  );
}

/** What it holds, before any of it has been done. */
function ChangeList({ changes }: { changes: readonly StagedChange[] }) {
  return (
    <ul aria-label="Its changes">
      {changes.map(({ subject, itemName, audience, change }) => (
        <li key={subject} className="flex gap-4 border-b border-line px-5 py-1.5">
          <b className="w-40 shrink-0 font-semibold">{changeWords(change)}</b>
          <span className="min-w-0 grow truncate">{itemName}</span>
          <span className="w-[40%] shrink-0 truncate text-ink-faint">{audience}</span>
        </li>
      ))}
    </ul>
  );
}

function Heading({ view: { progress, madeBy, name, reason, undoes, approvedBy } }: { view: DocketView }) {
  const { counts } = progress;
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
  return (
    <>
      <h1 className="text-[18px] font-semibold">
        {name ? `${name}, ${countWords(total, "change")}` : `Docket of ${countWords(total, "change")}`}:{" "}
        {stateWords(progress)}
      </h1>
      <p className="text-ink-soft">
        {progress.state === "dropped"
          ? "Nothing was applied."
          : `${counts.done} done, ${counts.failed} failed, ${counts["set-aside"]} skipped, ${counts.staged + counts.sending} to do.`}{" "}
        Made by {madeBy}.{" "}
        {undoes && (
          <Link href={`/ledger/dockets/${undoes}`} className="text-verdigris underline">
            The docket it undoes
          </Link>
        )}
        {approvedBy && ` Approved by ${approvedBy}.`}{" "}
        {counts.done > 0 && (
          <Link href={`/ledger/dockets/${progress.docketId}/notices`} className="text-verdigris underline">
            Tell owners and recipients
          </Link>
        )}
      </p>
      <p>
        <Link
          href={`/register?${new URLSearchParams({ q: `docket:${progress.docketId}` })}`}
          className="text-verdigris underline"
        >
          Show its shares in the register
        </Link>
      </p>
      {reason && <p className="max-w-prose wrap-anywhere">Reason: {reason}</p>}
    </>
  );
}

/** A docket is over when all of it has been seen to. */
function stateWords(progress: DocketProgress): string {
  const { state, counts } = progress;
  if (state === "dropped") return "discarded";
  if (state !== "done") return state;
  if (isClosed(progress)) return "closed";
  return counts.failed + progress.unchecked > 0 ? "not closed yet" : "the rest has to be done by hand";
}

/** What failed, or could not be seen to have taken: it is tried again, or somebody takes it over. */
function Leftover({ id, progress }: { id: string; progress: DocketProgress }) {
  const { act, problem } = useTray();
  const client = useQueryClient();
  const { state, counts, unchecked } = progress;
  if (state !== "done" || counts.failed + unchecked === 0) return null;
  const done = () => client.invalidateQueries({ queryKey: keyOf(docketsOperations.docket, { id }) });
  const words = [
    counts.failed > 0 && `${countWords(counts.failed, "change")} failed`,
    unchecked > 0 && `${countWords(unchecked, "change")} could not be confirmed`,
  ];
  return (
    <div className="mt-2 flex items-center gap-3">
      <p>{words.filter(Boolean).join("; ")}.</p>
      <Button look="act" onClick={() => act.mutate({ docketId: id, act: "retry" }, { onSuccess: done })}>
        Try and probe again
      </Button>
      <Button onClick={() => act.mutate({ docketId: id, act: "take-over" }, { onSuccess: done })}>
        Take over by hand
      </Button>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
    </div>
  );
}

/** Which receipts are shown, by their state. */
function StateLine({
  progress: { counts },
  state,
  onState,
}: {
  progress: DocketProgress;
  state: ChangeState | null;
  onState: (state: ChangeState | null) => void;
}) {
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
  const choices = [null, ...CHANGE_STATES.filter((one) => (counts[one] ?? 0) > 0)];
  if (choices.length <= 2) return null;
  return (
    <div role="group" aria-label="Show changes" className="flex gap-2 border-b border-line px-3.5 py-1.5">
      {choices.map((one) => (
        <button
          key={one ?? "all"}
          type="button"
          aria-pressed={state === one}
          onClick={() => onState(one)}
          className="rounded-[3px] px-2 py-0.5 text-verdigris underline aria-pressed:bg-verdigris-soft aria-pressed:font-semibold aria-pressed:no-underline"
        >
          {one === null ? "All" : plainWords(one)} {(one === null ? total : counts[one]).toLocaleString("en-GB")}
        </button>
      ))}
    </div>
  );
}

function Pages({ from, found, onFrom }: { from: number; found: number; onFrom: (from: number) => void }) {
  const last = Math.min(from + PAGE, found);
  return (
    <nav aria-label="More receipts" className="flex items-center gap-3 border-t border-line px-3.5 py-2">
      <Button disabled={from === 0} onClick={() => onFrom(Math.max(0, from - PAGE))}>
        Earlier
      </Button>
      <Button disabled={last >= found} onClick={() => onFrom(from + PAGE)}>
        Later
      </Button>
      <span className="text-ink-soft">
        {(from + 1).toLocaleString("en-GB")} to {last.toLocaleString("en-GB")} of {found.toLocaleString("en-GB")}
      </span>
    </nav>
  );
}
