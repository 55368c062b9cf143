"use client";

import { useMutation } from "@tanstack/react-query";
import { useId, useState } from "react";
import type { GivenWaiver } from "@/core/sharing/request";
import type { Seconds } from "@/core/time/instant";
import { Button } from "../parts/Button";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import type { Beginning, SharingDoor } from "./door";
import { SentenceSlots } from "./SentenceSlots";
import { useSentence } from "./useSentence";
import { Verdict } from "./Verdict";

interface Props {
  door: SharingDoor;
  beginning: Beginning;
  now: Seconds;
  onSent: (id: string) => void;
}

/** The sentence, and beside it what would come of it. It can't be sent while it breaks a rule that isn't waived. */
export function SentenceForm({ door, beginning, now, onSent }: Props) {
  const sentence = useSentence(door, beginning, now);
  const [why, setWhy] = useState("");
  const [waivers, setWaivers] = useState<GivenWaiver[]>([]);
  const { data, error, isPlaceholderData } = sentence.outlook;
  const send = useMutation({
    mutationFn: () => door.send({ wish: sentence.wish, digest: data!.digest, why, waivers }),
    onSuccess: onSent,
    onError: () => void sentence.outlook.refetch(),
  });
  const isMaking = door.kind === "make";
  const open = data?.breaks.filter(({ rule }) => !waivers.some((one) => one.rule === rule)) ?? [];
  const isReady =
    sentence.problem === null &&
    data !== undefined &&
    !isPlaceholderData &&
    data.cannot.length === 0 &&
    !send.isPending;
  const isAllowed = isMaking ? open.length === 0 : why.trim().length >= 3;
  const id = useId();
  return (
    <div className="grid items-start gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          send.mutate();
        }}
      >
        <SentenceSlots sentence={sentence} itemName={beginning.itemName} />
        <label htmlFor={id} className="mt-4 mb-1 block font-semibold">
          {isMaking ? "What it is for (optional)" : "What it is for"}
        </label>
        <textarea
          id={id}
          rows={2}
          value={why}
          onChange={({ target }) => setWhy(target.value)}
          className="block w-full max-w-lg rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
        />
        {send.error && <Notice tone="wrong">{send.error.message}</Notice>}
        <p className="mt-3 flex flex-wrap items-center gap-3">
          <Button look="act" type="submit" disabled={!isReady || !isAllowed}>
            {sendWords(isMaking, beginning.wish.replaces !== undefined, data?.needsApproval)}
          </Button>
          <span className="text-ink-soft">{waitWords(sentence.problem, isMaking, open.length)}</span>
        </p>
      </form>
      <div>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!data && beginning.folder && <p className="text-copper">{beginning.folder}</p>}
        {sentence.problem === null && !data && !error && <Loading />}
        {data && <Verdict outlook={data} now={now} waivers={isMaking ? waivers : null} onWaivers={setWaivers} />}
      </div>
    </div>
  );
}

function sendWords(isMaking: boolean, replaces: boolean, needsApproval: boolean | undefined): string {
  if (isMaking) return replaces ? "Make it, then revoke the old one" : "Make the share";
  return needsApproval === false ? "Share it" : "Ask for it";
}

function waitWords(problem: string | null, isMaking: boolean, open: number): string {
  if (problem !== null) return problem;
  if (isMaking && open > 0) return "Change it until it breaks no rule, or waive the rule with a reason.";
  return !isMaking && open > 0 ? "It breaks a rule: an administrator would have to waive it." : "";
}
