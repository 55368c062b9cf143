"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { type EngagementPage, engagementsOperations } from "@/contract/engagements";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Finder } from "../parts/Finder";
import { MomentField } from "../parts/MomentField";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import { Picked } from "./Picked";
import { engagementAt } from "./words";

interface Props {
  /** The engagement to change; without it, a new one is made. Its end is changed elsewhere, with a reason. */
  page?: EngagementPage;
  onDone: () => void;
}

/** What an engagement is for, with whom, how long, and who answers for it. */
export function EngagementForm({ page, onDone }: Props) {
  const { now } = useStandpoint();
  const router = useRouter();
  const client = useQueryClient();
  const dates = useDates();
  const before = page?.engagement;
  const [name, setName] = useState(before?.name ?? "");
  const [items, setItems] = useState(page?.items.map(({ id, name: words }) => ({ id, words })) ?? []);
  const [organisations, setOrganisations] = useState(before?.organisations.map(named) ?? []);
  const [responsible, setResponsible] = useState(page?.kept?.responsible ?? "");
  const starts = useMoment(before ? dates.day(before.starts) : "today", { now, edge: "start" });
  const ends = useMoment("in 90 days", { now, edge: "end", min: now });
  const given = () => ({
    ...{ name, itemIds: items.map(({ id }) => id), organisations: organisations.map(({ id }) => id) },
    ...{ starts: rfc3339(starts.at!), responsible },
  });
  const save = useMutation({
    mutationFn: async () => {
      if (before) return ask(engagementsOperations.changeEngagement, { body: { id: before.id, ...given() } });
      return ask(engagementsOperations.makeEngagement, { body: { ...given(), ends: rfc3339(ends.at!) } });
    },
    onSuccess: async (answer) => {
      await client.invalidateQueries();
      if ("id" in answer) router.push(engagementAt(answer.id));
      else onDone();
    },
  });
  const isWhole =
    items.length > 0 && organisations.length > 0 && responsible !== "" && starts.at !== null && (before || ends.at);
  return (
    <form
      className="max-w-2xl"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h1 className="mb-3 text-[20px] font-semibold">{before ? `Change ${before.name}` : "New project"}</h1>
      <Field
        label="Name"
        required
        maxLength={200}
        placeholder="Recording of the autumn tour"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Picked
        label="Items"
        hint="Everything below them is part of the project too."
        find="Add an item"
        kinds={["item"]}
        picked={items}
        onPicked={setItems}
      />
      <Picked
        label="Organisations"
        find="Add an organisation"
        kinds={["organisation"]}
        picked={organisations}
        onPicked={setOrganisations}
        typed={(text) => (/^[^\s.@]+(\.[^\s.@]+)+$/.test(text) ? text.toLowerCase() : null)}
      />
      <div className="flex flex-wrap gap-x-6">
        <MomentField label="Starts on" moment={starts} />
        {!before && (
          <MomentField label="Ends on" moment={ends} hint="The person responsible gets a mail two weeks before." />
        )}
      </div>
      <div className="mb-4">
        <p className="mb-1 font-semibold">Responsible</p>
        <Finder
          label="Responsible"
          placeholder="name or address"
          kinds={["owner"]}
          value={responsible}
          onPick={(subject) => setResponsible(subject?.id ?? "")}
        />
      </div>
      <p className="flex gap-2">
        <Button type="submit" look="act" disabled={save.isPending || !isWhole}>
          {before ? "Save" : "Create"}
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </form>
  );
}

function named(domain: string) {
  return { id: domain, words: domain };
}
