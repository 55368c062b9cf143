"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { outsidersOperations, type StanceTold } from "@/contract/outsiders";
import { type Stance, STANCES } from "@/core/estate/records";
import { isMailboxProvider } from "@/core/outsiders/providers";
import { begun } from "@/core/text/text";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { STANCE_EFFECTS, STANCE_WORDS } from "./words";

interface Props {
  domain: string;
  /** What it is, whoever says so; and as it was set here, where it was. */
  stance: Stance | null;
  set: StanceTold | undefined;
}

/** Our stance on a domain: what it is, who said so, and how to set another. */
export function StancePart(props: Props) {
  const { viewer, past } = useStandpoint();
  const [isSetting, setSetting] = useState(false);
  const mayChange = viewer.mayChange && past === null;
  const isProposed = props.stance === null && isMailboxProvider(props.domain);
  return (
    <>
      <StanceNow {...props} />
      {isProposed && (
        <p className="mt-1 text-ink-soft">
          A published list names this domain as a common mailbox provider. If its addresses belong to private people,
          set it to private mailboxes.
        </p>
      )}
      {mayChange && !isSetting && (
        <p className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => setSetting(true)}>
            Set a stance<span className="sr-only"> on {props.domain}</span>
          </Button>
          {props.set && <Drop domain={props.domain} />}
        </p>
      )}
      {isSetting && (
        <SetStance {...props} proposed={isProposed ? "personal" : "trusted"} onClose={() => setSetting(false)} />
      )}
    </>
  );
}

function StanceNow({ stance, set }: Props) {
  const dates = useDates();
  if (stance === null) return <p>None.</p>;
  return (
    <>
      <p>
        <b className="font-semibold">{begun(STANCE_WORDS[stance])}</b>. {STANCE_EFFECTS[stance]}
      </p>
      <p className="text-ink-soft">
        {set
          ? `Set by ${set.setBy} on ${dates.day(set.setAt)}${
              set.until === null ? "" : `, until ${dates.moment(set.until)}`
            }: ${set.reason}`
          : "From a store or a file."}
      </p>
    </>
  );
}

/** After a stance has changed, everything that is judged by it is asked for anew. */
function useSaying() {
  const client = useQueryClient();
  return { onSuccess: () => client.invalidateQueries() };
}

function Drop({ domain }: { domain: string }) {
  const saying = useSaying();
  const drop = useMutation({
    mutationFn: () => ask(outsidersOperations.dropStance, { body: { domain } }),
    ...saying,
  });
  return (
    <>
      <Button disabled={drop.isPending} onClick={() => drop.mutate()}>
        End it now
      </Button>
      {drop.error && <Notice tone="wrong">{drop.error.message}</Notice>}
    </>
  );
}

function SetStance({ domain, stance: before, proposed, onClose }: Props & { proposed: Stance; onClose: () => void }) {
  const { now } = useStandpoint();
  const saying = useSaying();
  const [stance, setStance] = useState<Stance>(before ?? proposed);
  const [reason, setReason] = useState("");
  const until = useMoment("", { now, edge: "end", min: now, optional: true });
  const save = useMutation({
    mutationFn: () =>
      ask(outsidersOperations.setStance, {
        body: { domain, stance, reason, until: until.at === null ? null : rfc3339(until.at) },
      }),
    ...saying,
    onSuccess: async () => {
      await saying.onSuccess();
      onClose();
    },
  });
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <fieldset className="mb-3">
        <legend className="sr-only">Stance</legend>
        {STANCES.map((one) => (
          <label key={one} className="mb-1.5 flex gap-2">
            <input type="radio" name="stance" checked={one === stance} onChange={() => setStance(one)} />
            <span>
              {begun(STANCE_WORDS[one])}
              <span className="block text-[12.5px] text-ink-soft">{STANCE_EFFECTS[one]}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <Field label="Why" required maxLength={500} value={reason} onChange={(event) => setReason(event.target.value)} />
      <MomentField label="Until" moment={until} hint="Leave empty for no end date." />
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={save.isPending || until.problem !== null}>
          Save
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </form>
  );
}
