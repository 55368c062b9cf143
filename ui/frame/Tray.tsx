"use client";

import { useQueryClient } from "@tanstack/react-query";
import { addressOf } from "@/contract/address";
import { useEffect, useRef, useState } from "react";
import { docketsOperations } from "@/contract/dockets";
import { previewWords } from "@/core/preview/previewWords";
import type { DocketProgress } from "@/core/changes/states";
import { focusListIfLost } from "../parts/focusList";
import { HeldStores } from "../parts/HeldStores";
import { countWords } from "../parts/words";
import { useEventsAt } from "../parts/useEvents";
import { ConfirmApply } from "./ConfirmApply";
import { TrayPanel } from "./TrayPanel";
import { type Confirmed, useTray } from "./useTray";
import { useStandpoint } from "./viewer";
import { Link } from "../parts/Link";

const GHOST = "h-7 whitespace-nowrap rounded-[3px] border border-band-line px-3 text-band-ink";

/** The docket being prepared, or the one being carried out, always at the foot of the window. */
export function Tray() {
  const { viewer, past } = useStandpoint();
  const { tray, left, dismissLeft, act, apply, problem, refresh } = useTray();
  const [isOpen, setIsOpen] = useState(false);
  const opener = useRef<HTMLButtonElement>(null);
  const [askedId, setAskedId] = useState<string | null>(null);
  const [watchedId, setWatchedId] = useState<string | null>(null);
  const shownId = watchedId ?? tray?.running?.docketId ?? null;
  const progress = useEventsAt<DocketProgress>(
    shownId ? addressOf(docketsOperations.docketNews, { params: { id: shownId } }) : null,
  );
  useRefreshWhenDone(progress, refresh);

  const onApply = async (docketId: string, confirmed: Confirmed) => {
    setIsOpen(false);
    const { applied } = await apply.mutateAsync({ docketId, ...confirmed });
    if (applied === "asked") setAskedId(docketId);
    else setWatchedId(docketId);
  };

  const preview = tray?.preview;
  const count = tray?.changes.length ?? 0;
  // Its buttons disappear with its content, and the focus may go with them.
  const isEmpty = count === 0 && progress === null;
  const wasEmpty = useRef(true);
  useEffect(() => {
    if (isEmpty && !wasEmpty.current) focusListIfLost();
    wasEmpty.current = isEmpty;
  }, [isEmpty]);
  return (
    <footer className="on-band bg-band text-band-ink">
      {isOpen && past === null && tray && preview && (
        <TrayPanel
          tray={tray}
          preview={preview}
          onClose={() => {
            setIsOpen(false);
            opener.current?.focus();
          }}
        />
      )}
      {problem && (
        <p role="alert" className="px-3.5 pt-2 text-band-oxide">
          {problem.message}
        </p>
      )}
      {left && (
        <p role="status" className="px-3.5 pt-2">
          {left}{" "}
          <button type="button" className="underline" onClick={dismissLeft}>
            Dismiss
          </button>
        </p>
      )}
      {progress && progress.held.length > 0 && (
        <div role="status" className="px-3.5 pt-2 text-band-oxide">
          <HeldStores held={progress.held} />
        </div>
      )}
      {askedId && (
        <p role="status" className="px-3.5 pt-2">
          Waiting for another administrator’s approval.{" "}
          <Link href={`/ledger/dockets/${askedId}`} className="underline" onClick={() => setAskedId(null)}>
            See why
          </Link>
        </p>
      )}
      <div className="flex min-h-[42px] items-center gap-x-4 px-3.5 max-lg:flex-wrap max-lg:py-1.5">
        {progress ? (
          <Running
            progress={progress}
            mayChange={viewer.mayChange}
            act={(name) => act.mutate({ docketId: progress.docketId, act: name })}
            dismiss={() => setWatchedId(null)}
          />
        ) : past === null && preview && tray.docketId && tray.digest ? (
          <>
            <p aria-live="polite" className="truncate">
              {/* Its numbers open what they count; by keyboard the button beside does. */}
              <button
                type="button"
                tabIndex={-1}
                className="hover:underline"
                title="Show each change"
                onClick={() => setIsOpen(true)}
              >
                {previewWords(preview)}
              </button>
              {preview.addressesStopping > 0 && (
                <span className="text-band-oxide">
                  {" "}
                  {countWords(preview.addressesStopping, "address stops", "addresses stop")} working for good.
                </span>
              )}
            </p>
            <span className="grow" />
            <Link href={`/ledger/dockets/${tray.docketId}`} className={`${GHOST} leading-[26px]`}>
              Open the full page
            </Link>
            <button
              ref={opener}
              type="button"
              className={GHOST}
              aria-expanded={isOpen}
              onClick={() => setIsOpen(!isOpen)}
            >
              {isOpen ? "Close" : "Preview"}
            </button>
            <ConfirmApply
              shown={{ preview, count, digest: tray.digest, name: tray.name, needsReason: tray.needsReason }}
              apply={(confirmed) => onApply(tray.docketId!, confirmed)}
            />
          </>
        ) : (
          <p className="opacity-80">
            {past !== null
              ? "The past can’t be changed. Go back to now to stage and apply changes."
              : viewer.mayChange
                ? "The tray is empty. Mark shares in the register, then choose what to do with them."
                : "You can see everything here, but not change anything."}
          </p>
        )}
      </div>
    </footer>
  );
}

/** When a docket is done, every list that it may have changed is asked for again. */
function useRefreshWhenDone(progress: DocketProgress | null, refresh: () => unknown) {
  const client = useQueryClient();
  const state = progress?.state;
  useEffect(() => {
    if (state !== "done") return;
    void client.invalidateQueries();
    void refresh();
    // `refresh` is new on every render; only the step to "done" counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [state, client]);
}

interface RunningProps {
  progress: DocketProgress;
  mayChange: boolean;
  act: (name: "pause" | "resume" | "retry" | "stop") => void;
  dismiss: () => void;
}

function Running({ progress, mayChange, act, dismiss }: RunningProps) {
  const { counts, state, docketId } = progress;
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
  const over = total - counts.staged - counts.sending;
  const words = state === "done" ? "Applied" : state === "paused" ? "Paused" : "Applying";
  return (
    <>
      <p role="status" className="whitespace-nowrap">
        <b className="font-semibold text-white">
          {words}: {counts.done.toLocaleString("en-GB")} of {countWords(total, "change")} done.
        </b>{" "}
        {counts.failed > 0 && <span className="text-band-oxide">{counts.failed} failed. </span>}
        {counts["set-aside"] > 0 && `${counts["set-aside"]} skipped. `}
        {counts["by-hand"] > 0 && `${counts["by-hand"]} to be done by hand.`}
      </p>
      <progress
        aria-label="Progress"
        value={over}
        max={total}
        className="h-2 grow appearance-none overflow-hidden rounded-[1px] [&::-moz-progress-bar]:bg-band-act [&::-webkit-progress-bar]:bg-band-line [&::-webkit-progress-value]:bg-band-act"
      />
      {mayChange && state === "applying" && (
        <button type="button" className={GHOST} onClick={() => act("pause")}>
          Pause
        </button>
      )}
      {mayChange && state === "paused" && (
        <>
          <button type="button" className={GHOST} onClick={() => act("resume")}>
            Resume
          </button>
          <button
            type="button"
            className={GHOST}
            onClick={() => act("stop")}
            title="What hasn’t started is skipped; what is done stays done"
          >
            Stop the docket
          </button>
        </>
      )}
      {mayChange && state === "done" && counts.failed > 0 && (
        <button type="button" className={GHOST} onClick={() => act("retry")}>
          Retry what failed
        </button>
      )}
      <Link href={`/ledger/dockets/${docketId}`} className={`${GHOST} leading-[26px]`}>
        Receipts
      </Link>
      {state === "done" && (
        <button type="button" className={GHOST} onClick={dismiss}>
          Dismiss
        </button>
      )}
    </>
  );
}
