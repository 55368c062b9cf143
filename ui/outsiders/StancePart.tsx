"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type OrganisationTold, outsidersOperations } from "@/contract/outsiders";
import { type Stance, STANCES } from "@/core/estate/records";
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

/** Our stance on an organisation: what it is, who said so, and how to set another. */
export function StancePart({ told }: { told: OrganisationTold }) {
  const { viewer, past } = useStandpoint();
  const [isSetting, setSetting] = useState(false);
  const mayChange = viewer.mayChange && past === null;
  return (
    <section aria-label="Stance" className="border border-line bg-surface px-4 py-3">
      <h2 className="text-[15px] font-semibold">Stance</h2>
      <StanceNow told={told} />
      {mayChange && !isSetting && (
        <p className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => setSetting(true)}>Set a stance</Button>
          {told.stance && <Drop domain={told.organisation.domain} />}
        </p>
      )}
      {isSetting && <SetStance told={told} onClose={() => setSetting(false)} />}
    </section>
  );
}

function StanceNow({ told: { organisation, stance } }: { told: OrganisationTold }) {
  const dates = useDates();
  if (organisation.stance === null) return <p>None.</p>;
  return (
    <>
      <p>
        <b className="font-semibold">{STANCE_WORDS[organisation.stance]}</b>. {STANCE_EFFECTS[organisation.stance]}
      </p>
      <p className="text-ink-soft">
        {stance
          ? `Set by ${stance.setBy} on ${dates.day(stance.setAt)}${
              stance.until === null ? "" : `, until ${dates.moment(stance.until)}`
            }: ${stance.reason}`
          : "So says a store or a file."}
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

function SetStance({ told: { organisation }, onClose }: { told: OrganisationTold; onClose: () => void }) {
  const { now } = useStandpoint();
  const saying = useSaying();
  const [stance, setStance] = useState<Stance>(organisation.stance ?? "trusted");
  const [reason, setReason] = useState("");
  const until = useMoment("", { now, edge: "end", min: now, optional: true });
  const { domain } = organisation;
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
              {STANCE_WORDS[one]}
              <span className="block text-[12.5px] text-ink-soft">{STANCE_EFFECTS[one]}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <Field label="Why" required maxLength={500} value={reason} onChange={(event) => setReason(event.target.value)} />
      <MomentField label="Until" moment={until} hint="Leave it empty for a stance without an end." />
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
