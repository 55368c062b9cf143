"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { waiversBody } from "@/contract/rules";
import type { z } from "zod";
import { type FormEvent, useState } from "react";
import { registerOperations } from "@/contract/register";
import { rulesOperations } from "@/contract/rules";
import { shareOperations } from "@/contract/share";
import type { Change } from "@/core/changes/change";
import type { WaiverView } from "@/core/register/remarks";
import type { ShareView } from "@/core/preview/shareDetail";
import { RULES, type RuleId } from "@/core/rules/list";
import type { Remedy } from "@/core/rules/remedies";
import { rfc3339, type Seconds } from "@/core/time/instant";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useMoment } from "../parts/useMoment";
import { useDates } from "../parts/useDates";

interface Props {
  detail: ShareView;
  now: Seconds;
  mayChange: boolean;
  onStage: (changes: Change[]) => void;
  onAsk: (asks: "end" | "addresses") => void;
}

/** What is wrong with a share, what would end it in its store, and what it may break for now. */
export function Findings({ detail, now, mayChange, onStage, onAsk }: Props) {
  const { findings, itemFindings, waivers } = detail;
  const shareId = detail.row.id;
  return (
    <>
      {findings.length + itemFindings.length === 0 && <p className="my-3">It breaks no rules.</p>}
      <ul>
        {findings.map(({ rule, title, reason, remedies }) => (
          <li key={rule} className="my-2 border-l-[3px] border-copper pl-2.5">
            <b className="font-semibold">{title}</b>
            <span className="block text-ink-soft">{reason}</span>
            {mayChange && (
              <ul className="mt-0.5">
                <Remedies shareId={shareId} remedies={remedies} onStage={onStage} onAsk={onAsk} />
                <li>
                  <WaiverForm shareId={shareId} subject={shareId} rule={rule} now={now} />
                </li>
              </ul>
            )}
          </li>
        ))}
        {itemFindings.map(({ rule, title, remedies }) => (
          <li key={rule} className="my-2 border-l-[3px] border-line-strong pl-2.5">
            <b className="font-semibold">{title}</b>
            <span className="block text-ink-soft">About the item as a whole, over all its shares.</span>
            {mayChange && (
              <ul className="mt-0.5">
                <Remedies shareId={shareId} remedies={remedies} onStage={onStage} onAsk={onAsk} />
                <li>
                  <WaiverForm shareId={shareId} subject={detail.row.itemId} rule={rule} now={now} />
                </li>
              </ul>
            )}
          </li>
        ))}
      </ul>
      {waivers.length > 0 && <Waivers shareId={shareId} waivers={waivers} mayChange={mayChange} />}
    </>
  );
}

type RemediesProps = { shareId: string; remedies: Remedy[] } & Pick<Props, "onStage" | "onAsk">;

function Remedies({ shareId, remedies, onStage, onAsk }: RemediesProps) {
  return remedies.map(({ words, changes, asks, why }) => (
    <li key={words}>
      {asks === "round" ? (
        <Link href={roundOfOne(shareId)} className="text-verdigris underline">
          {words}
        </Link>
      ) : why === null ? (
        <button
          type="button"
          onClick={() => (asks ? onAsk(asks) : onStage(changes))}
          className="text-left text-verdigris underline"
        >
          {words}
        </button>
      ) : (
        <span className="text-ink-faint">
          {words}: {why}
        </span>
      )}
    </li>
  ));
}

/** Where a round is made that asks about one share. */
const roundOfOne = (shareId: string) => `/rounds/new?${new URLSearchParams({ q: `share:"${shareId}"` })}`;

type WaiverChange = { give: z.input<typeof waiversBody> } | { end: number };

function useWaiverChange(shareId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (change: WaiverChange) => {
      if ("end" in change) await ask(rulesOperations.endWaivers, { body: { ids: [change.end] } });
      else await ask(rulesOperations.giveWaivers, { body: change.give });
    },
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: keyOf(shareOperations.share, { id: shareId }) });
      void client.invalidateQueries({ queryKey: keyOf(registerOperations.registerPage) });
    },
  });
}

/** Gives leave to break a rule: it takes a reason and an end. */
function WaiverForm(props: { shareId: string; subject: string; rule: RuleId; now: Seconds }) {
  const { shareId, subject, rule, now } = props;
  const [isOpen, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const until = useMoment("in 30 days", { now, edge: "end", min: now });
  const change = useWaiverChange(shareId);
  if (!isOpen)
    return (
      <button type="button" onClick={() => setOpen(true)} className="text-verdigris underline">
        Waive it for now
      </button>
    );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (until.at !== null)
      change.mutate({ give: { shareIds: [subject], rules: [rule], reason, until: rfc3339(until.at) } });
  };
  return (
    <form onSubmit={submit} className="my-1 grid gap-1.5 border border-line-strong bg-raised p-2">
      <label>
        Reason
        <textarea
          required
          minLength={3}
          maxLength={500}
          rows={2}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          className="block w-full rounded-[3px] border border-control bg-raised px-1.5 py-1"
        />
      </label>
      <MomentField label="Until" moment={until} />
      {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
      <span className="flex gap-2">
        <Button type="submit" look="act" disabled={change.isPending}>
          Waive
        </Button>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
      </span>
    </form>
  );
}

function Waivers({ shareId, waivers, mayChange }: { shareId: string; waivers: WaiverView[]; mayChange: boolean }) {
  const dates = useDates();
  const change = useWaiverChange(shareId);
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Waivers</h3>
      <ul>
        {waivers.map(({ id, rule, reason, givenBy, ends, isOver }) => (
          <li key={id} className="border-t border-line py-1">
            {RULES[rule].title}: {reason}
            <span className="block text-ink-faint">
              {isOver ? "Ended" : "Until"} {dates.moment(ends)}, given by {givenBy}
            </span>
            {mayChange && !isOver && (
              <button type="button" onClick={() => change.mutate({ end: id })} className="text-verdigris underline">
                End it now
              </button>
            )}
          </li>
        ))}
      </ul>
      {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
    </section>
  );
}
