"use client";

import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { X } from "lucide-react";
import Link from "next/link";
import { type Latch, LATCHES, type LatchState } from "@/core/rules/latches";
import type { ShareDetail } from "@/core/register/detail";
import { asOf } from "../frame/viewer";
import { api } from "../parts/api";
import { Button } from "../parts/Button";
import { LATCH_WORDS, LatchMark, STATE_WORDS } from "../parts/LatchMarks";
import { Notice } from "../parts/Notice";
import { RiskMark } from "../parts/RiskMark";
import { itemWords, momentWords, plainWords, wayWords } from "../parts/words";

interface Props {
  id: string;
  /** The past instant that is shown; null is now. */
  past: string | null;
  mayChange: boolean;
  isStaged: boolean;
  onClose: () => void;
  onRevoke: () => void;
  onEnd: () => void;
  onOpen: (id: string) => void;
}

/** All about one share: what it does, its latches, what is wrong with it, and who else gets in. */
export function Inspector(props: Props) {
  const { data, error } = useQuery({
    queryKey: ["share", props.id, props.past],
    queryFn: ({ signal }) =>
      api<ShareDetail>(asOf(`/api/shares/${encodeURIComponent(props.id)}`, props.past), { signal }),
  });
  return (
    <aside
      aria-label="Share"
      className="w-[296px] shrink-0 overflow-y-auto border-l border-line-strong bg-surface px-4 py-3"
    >
      <button type="button" aria-label="Close" onClick={props.onClose} className="float-right p-1">
        <X size={16} aria-hidden />
      </button>
      {error ? (
        <Notice tone="wrong">{error.message}</Notice>
      ) : data ? (
        <Detail detail={data} {...props} />
      ) : (
        <p className="text-ink-faint">Loading…</p>
      )}
    </aside>
  );
}

function Detail({ detail, ...props }: Props & { detail: ShareDetail }) {
  const { row, sentence, address, others } = detail;
  return (
    <>
      <h2 className="pr-6 text-[15.5px] leading-tight font-semibold wrap-anywhere">{row.itemName}</h2>
      <p className="text-ink-faint">
        {[row.storeName, ...row.place].join(" / ")}, a {row.itemKind}, {row.label}
      </p>
      <p className="my-2.5">{sentence}</p>
      <LatchControls detail={detail} mayChange={props.mayChange} onEnd={props.onEnd} />
      {row.risk && (
        <div className="my-3 flex items-center gap-3">
          <span className="text-ink-faint">Risk</span>
          <RiskMark risk={row.risk} />
        </div>
      )}
      <Findings detail={detail} />
      {props.mayChange &&
        (props.isStaged ? (
          <p className="my-3 font-semibold text-verdigris">A change to this share is in the tray.</p>
        ) : (
          <Button className="my-3 text-oxide" onClick={props.onRevoke}>
            Stage its revoke
          </Button>
        ))}
      <Recipients detail={detail} />
      <section className="mt-4">
        <h3 className="font-semibold">If this goes</h3>
        <IfGone ifGone={detail.ifGone} />
        <Link
          href={asOf(`/trace?item=${encodeURIComponent(row.itemId)}`, props.past)}
          className="text-verdigris underline"
        >
          Trace everybody who reaches this item
        </Link>
      </section>
      {others.length > 0 && (
        <section className="mt-4">
          <h3 className="font-semibold">Other ways in to the same item</h3>
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
      {address && (
        <section className="mt-4">
          <h3 className="font-semibold">Address</h3>
          <p className="font-mono text-[12.5px] break-all">{address}</p>
        </section>
      )}
      <p className="mt-4 font-mono text-[12px] text-ink-faint">{row.id}</p>
    </>
  );
}

/** The latches as controls; one that can't be shut from here is a plain mark that says why. */
function LatchControls({ detail, mayChange, onEnd }: { detail: ShareDetail; mayChange: boolean; onEnd: () => void }) {
  const { latches } = detail.row;
  return (
    <ul className="grid grid-cols-4 rounded-[4px] border border-line-strong bg-raised">
      {LATCHES.map((latch) => (
        <li
          key={latch}
          className={clsx("border-r border-line last:border-r-0", latches[latch] === "demanded" && "bg-copper-soft")}
        >
          {latch === "expiry" && mayChange && detail.noExpiryWhy === null ? (
            <button
              type="button"
              onClick={onEnd}
              className="w-full px-1 py-2 hover:bg-verdigris-soft"
              title="Set an end date"
            >
              <LatchFace latch={latch} state={latches[latch]} underlined />
            </button>
          ) : (
            <div className="px-1 py-2" title={latch === "expiry" ? (detail.noExpiryWhy ?? undefined) : undefined}>
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
      <span className="text-ink-faint">{state === "demanded" ? "demanded" : STATE_WORDS[state]}</span>
    </span>
  );
}

function Findings({ detail }: { detail: ShareDetail }) {
  if (detail.findings.length + detail.itemFindings.length === 0) return <p className="my-3">It breaks no rule.</p>;
  return (
    <ul>
      {detail.findings.map(({ rule, title, reason }) => (
        <li key={rule} className="my-2 border-l-[3px] border-copper pl-2.5">
          <b className="font-semibold">{title}</b>
          <span className="block text-ink-soft">{reason}</span>
        </li>
      ))}
      {detail.itemFindings.map(({ rule, title }) => (
        <li key={rule} className="my-2 border-l-[3px] border-line-strong pl-2.5">
          <b className="font-semibold">{title}</b>
          <span className="block text-ink-soft">Said of the item, over all its shares.</span>
        </li>
      ))}
    </ul>
  );
}

/** Who loses access if the share goes, and who keeps it by another way. */
function IfGone({ ifGone: { words, lose, losers, keep, keepers } }: Pick<ShareDetail, "ifGone">) {
  return (
    <>
      <p className="text-ink-soft">{words}</p>
      {losers > 0 && (
        <>
          <h4 className="mt-1.5 text-[12px] text-ink-faint">Who loses access</h4>
          <ul>
            {lose.map((person) => (
              <li key={person.address} className="border-t border-line py-1">
                {person.name} <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
                <span className="block text-ink-soft">{itemWords(person.loses)}</span>
              </li>
            ))}
          </ul>
          {losers > lose.length && <p className="text-ink-faint">and {losers - lose.length} more</p>}
        </>
      )}
      {keepers > 0 && (
        <>
          <h4 className="mt-1.5 text-[12px] text-ink-faint">Who keeps another way in</h4>
          <ul>
            {keep.map((person) => (
              <li key={person.address} className="border-t border-line py-1">
                {person.name} <span className="font-mono text-[12px] text-ink-faint">{person.address}</span>
                <span className="block text-copper">by {wayWords(person.ways)}</span>
              </li>
            ))}
          </ul>
          {keepers > keep.length && <p className="text-ink-faint">and {keepers - keep.length} more</p>}
        </>
      )}
    </>
  );
}

function Recipients({ detail }: { detail: ShareDetail }) {
  if (detail.recipients.length === 0) return null;
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Who it is for</h3>
      <ul>
        {detail.recipients.map((one) => (
          <li key={one.email} className="border-t border-line py-1">
            <span className="font-mono text-[12.5px] break-all">{one.email}</span>
            {detail.tellsRecipientUse && (
              <span className="block text-ink-faint">
                {one.lastOpenedAt ? `Last opened ${momentWords(one.lastOpenedAt)}` : "Never opened"}
                {one.downloads ? `, ${one.downloads} downloads` : ""}
              </span>
            )}
          </li>
        ))}
      </ul>
      {!detail.tellsRecipientUse && (
        <p className="text-ink-faint">{plainWords("this store does not tell who opened it")}.</p>
      )}
    </section>
  );
}
