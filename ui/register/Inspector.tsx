"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { X } from "lucide-react";
import { shareOperations } from "@/contract/share";
import { type Latch, LATCH_WORDS, LATCHES } from "@/core/changes/latches";
import type { LatchState } from "@/core/rules/latches";
import type { ShareDetail } from "@/core/preview/shareDetail";
import type { ShareView } from "@/core/preview/shareDetail";
import type { Seconds } from "@/core/time/instant";
import { asOf } from "../frame/viewer";
import { Button } from "../parts/Button";
import { LatchMark, STATE_WORDS } from "../parts/LatchMarks";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { changeWords } from "@/core/changes/changeWords";
import type { StagedChange } from "@/core/changes/states";
import { useTray } from "../frame/useTray";
import { Notice } from "../parts/Notice";
import { RiskMark } from "../parts/RiskMark";
import type { Staging } from "../staging/useStaging";
import { Findings } from "./Findings";
import { IfGone } from "./IfGone";
import { Notes } from "../parts/Notes";
import { Recipients } from "./Recipients";
import { ShareHistory } from "./ShareHistory";
import { ask, asked, keyOf, RequestFailure } from "../parts/ask";
import { toldIn } from "../parts/dates";
import type { Note } from "@/core/register/remarks";
import { useDates } from "../parts/useDates";

interface Props {
  id: string;
  /** The past instant that is shown; null is now. */
  past: string | null;
  now: Seconds;
  mayChange: boolean;
  /** What the tray would do to it. */
  staged: readonly StagedChange[];
  onClose: () => void;
  staging: Staging;
  onOpen: (id: string) => void;
}

/** All about one share: what it does, its latches, what is wrong with it, and who else gets in. */
export function Inspector(props: Props) {
  const dates = useDates();
  const { data, error } = useQuery({
    ...asked(shareOperations.share, { params: { id: props.id }, query: toldIn(dates), past: props.past }),
  });
  return (
    <aside
      aria-label="Share"
      className="shrink-0 overflow-y-auto border-line-strong bg-surface px-4 py-3 max-lg:border-t lg:w-[320px] lg:border-l"
    >
      <button type="button" aria-label="Close" onClick={props.onClose} className="float-right p-1">
        <X size={16} aria-hidden />
      </button>
      {isGone(error) ? (
        <Ended id={props.id} />
      ) : error ? (
        <Notice tone="wrong">{error.message}</Notice>
      ) : data ? (
        <Detail detail={data} {...props} />
      ) : (
        <Loading />
      )}
    </aside>
  );
}

const isGone = (error: Error | null) => error instanceof RequestFailure && error.status === 404;

/** A share that is over: who ended it and when, and the docket that did. */
function Ended({ id }: { id: string }) {
  const dates = useDates();
  const { data, error } = useQuery({ ...asked(shareOperations.endedShare, { params: { id } }), retry: false });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!data) return <Loading />;
  const { itemName, audience, endedAt, by, docketId } = data;
  return (
    <>
      <h2 className="pr-6 text-[15.5px] leading-tight font-semibold wrap-anywhere">{itemName}</h2>
      <p className="text-ink-faint">{audience}</p>
      <p className="my-2.5">
        This share ended{endedAt && ` on ${dates.zoned(endedAt)}`}
        {by ? `, by ${by}` : ", in its store"}.
      </p>
      {docketId && (
        <Link href={`/ledger/dockets/${docketId}`} className="text-verdigris underline">
          The docket that ended it
        </Link>
      )}
    </>
  );
}

/** What the tray would do to the share, to be removed where it stands. */
function Staged({ changes }: { changes: readonly StagedChange[] }) {
  const { unstage } = useTray();
  return (
    <ul aria-label="In the tray" className="my-3 border-l-4 border-copper pl-2.5">
      {changes.map(({ subject, change }) => (
        <li key={subject}>
          In the tray: <b className="font-semibold">{changeWords(change)}</b>{" "}
          <button type="button" onClick={() => unstage.mutate([subject])} className="text-verdigris underline">
            Remove
          </button>
        </li>
      ))}
    </ul>
  );
}

function Detail({ detail, ...props }: Props & { detail: ShareView }) {
  const { row, sentence, label, others } = detail;
  return (
    <>
      <h2 className="pr-6 text-[15.5px] leading-tight font-semibold wrap-anywhere">{row.itemName}</h2>
      <p className="text-ink-faint">
        {[row.storeName, ...row.place].join(" / ")}, a {row.itemKind}, labelled {label.label} ({label.from})
        {row.label !== label.label && `; ${row.label} further down`}
      </p>
      <p className="my-2.5">{sentence}</p>
      <LatchControls detail={detail} mayChange={props.mayChange} staging={props.staging} />
      {row.risk && (
        <div className="my-3 flex items-center gap-3">
          <span className="text-ink-faint">Risk</span>
          <RiskMark risk={row.risk} />
        </div>
      )}
      <Findings
        detail={detail}
        now={props.now}
        mayChange={props.mayChange}
        onStage={props.staging.stage}
        onAsk={(asks) => props.staging.ask(asks, [row.id])}
      />
      {props.mayChange &&
        (props.staged.length > 0 ? (
          <Staged changes={props.staged} />
        ) : (
          <Button className="my-3 text-oxide" onClick={() => props.staging.revoke([row.id])}>
            Add its revoke to the docket
          </Button>
        ))}
      <Recipients detail={detail} past={props.past} />
      <section className="mt-4">
        {props.mayChange && (
          <p className="mb-3">
            <Link
              href={`/share?item=${encodeURIComponent(row.itemId)}&replaces=${encodeURIComponent(row.id)}`}
              className="text-verdigris underline"
            >
              Replace it by one that holds
            </Link>
            ,{" "}
            <Link href={`/share?item=${encodeURIComponent(row.itemId)}`} className="text-verdigris underline">
              or share the {row.itemKind} with somebody else
            </Link>
          </p>
        )}
        <h3 className="font-semibold">If this is revoked</h3>
        <IfGone ifGone={detail.ifGone} />
        <Link
          href={asOf(`/ways?item=${encodeURIComponent(row.itemId)}`, props.past)}
          className="text-verdigris underline"
        >
          Everybody who reaches this item
        </Link>
      </section>
      {others.length > 0 && (
        <section className="mt-4">
          <h3 className="font-semibold">Other ways in to this item</h3>
          <ul>
            {others.map((other) => (
              <li key={other.id} className="border-t border-line py-1">
                <button
                  type="button"
                  onClick={() => props.onOpen(other.id)}
                  className="text-left text-verdigris underline first-letter:uppercase"
                >
                  {other.words}
                </button>{" "}
                <span className="text-ink-faint">{other.at}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {detail.hasAddress && props.mayChange && <Address shareId={row.id} />}
      <ShareHistory id={row.id} history={detail.history} now={props.now} past={props.past} />
      <ShareNotes shareId={row.id} notes={detail.notes} mayChange={props.mayChange} />
      <p className="mt-4 font-mono text-[12px] text-ink-faint">{row.id}</p>
    </>
  );
}

function ShareNotes({ shareId, notes, mayChange }: { shareId: string; notes: Note[]; mayChange: boolean }) {
  const client = useQueryClient();
  const leave = async (text: string) => {
    await ask(shareOperations.leaveNote, { params: { id: shareId }, body: { text } });
    await client.invalidateQueries({ queryKey: keyOf(shareOperations.share, { id: shareId }) });
  };
  return <Notes on="this share" notes={notes} onLeave={mayChange ? leave : null} />;
}

/** It lets in whoever reads it, so it is shown to those alone who ask for it, and the ledger says to whom. */
function Address({ shareId }: { shareId: string }) {
  const shown = useMutation({
    mutationFn: () => ask(shareOperations.showAddress, { params: { id: shareId } }),
  });
  return (
    <section className="mt-4" key={shareId}>
      <h3 className="font-semibold">Address</h3>
      {shown.data ? (
        // What was pressed to show it is gone: who goes by keyboard goes on from here.
        <p className="font-mono text-[12.5px] break-all" tabIndex={-1} ref={(shownHere) => shownHere?.focus()}>
          {shown.data.address}
        </p>
      ) : (
        <p>
          <Button disabled={shown.isPending} onClick={() => shown.mutate()}>
            Show the address
          </Button>{" "}
          <span className="text-ink-faint">The ledger records that you saw it.</span>
        </p>
      )}
      {shown.error && <Notice tone="wrong">{shown.error.message}</Notice>}
    </section>
  );
}

/** The latches as controls, each of which stages the change that shuts it; one that can't be is a plain mark that says why. */
function LatchControls({ detail, mayChange, staging }: { detail: ShareDetail; mayChange: boolean; staging: Staging }) {
  const { latches, id } = detail.row;
  const shut: Record<Latch, () => void> = {
    expiry: () => staging.ask("end", [id]),
    // Where there is one, the control says that it replaces it.
    password: () => staging.password([id], true),
    download: () => staging.block([id]),
    named: () => staging.ask("addresses", [id]),
  };
  const isShut = (latch: Latch) => latches[latch] === "shut" && latch !== "expiry";
  return (
    <ul className="grid grid-cols-4 rounded-[4px] border border-line-strong bg-raised">
      {LATCHES.map((latch) => (
        <li
          key={latch}
          className={clsx("border-r border-line last:border-r-0", latches[latch] === "demanded" && "bg-copper-soft")}
        >
          {mayChange && !isShut(latch) && detail.controls[latch].why === null ? (
            <button
              type="button"
              onClick={shut[latch]}
              className="w-full px-1 py-2 hover:bg-verdigris-soft"
              title={detail.controls[latch].words}
            >
              <LatchFace latch={latch} state={latches[latch]} underlined />
            </button>
          ) : (
            <div className="px-1 py-2" title={isShut(latch) ? undefined : (detail.controls[latch].why ?? undefined)}>
              <LatchFace latch={latch} state={latches[latch]} />
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}

function LatchFace({ latch, state, underlined }: { latch: Latch; state: LatchState; underlined?: boolean }) {
  return (
    <span className="flex flex-col items-center gap-1 text-center text-[11.5px] leading-tight">
      <LatchMark state={state} large />
      <span className={clsx(underlined && "underline")}>{LATCH_WORDS[latch]}</span>
      <span className="text-ink-faint">{state === "demanded" ? "required" : STATE_WORDS[state]}</span>
    </span>
  );
}
