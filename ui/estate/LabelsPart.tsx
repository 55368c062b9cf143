"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type LabelOutlookTold, type LabelRuleTold, labelsOperations } from "@/contract/labels";
import { storesOperations } from "@/contract/stores";
import { type Label, LABELS } from "@/core/estate/records";
import { begun } from "@/core/text/text";
import { useStandpoint } from "../frame/viewer";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Field } from "../parts/Field";
import { Finder } from "../parts/Finder";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";

type Rule = { label: Label; on: LabelRuleTold["on"]; of: string };
type Change = { rule: Rule } | { ends: number };

/** Our own label rules, beside what stores say: each is previewed before it counts. */
export function LabelsPart() {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const { data, error } = useQuery(asked(labelsOperations.labelRules));
  const [change, setChange] = useState<Change | null>(null);
  const look = useMutation({ mutationFn: (body: Change) => ask(labelsOperations.lookAtLabels, { body }) });
  const save = useMutation({
    mutationFn: ({ count }: LabelOutlookTold) =>
      "rule" in change!
        ? ask(labelsOperations.setLabelRule, { body: { rule: change.rule, count } })
        : ask(labelsOperations.endLabelRule, { body: { id: change!.ends, count } }),
    onSuccess: () => client.invalidateQueries(),
    onSettled: () => {
      setChange(null);
      look.reset();
    },
  });
  const preview = (next: Change) => {
    setChange(next);
    save.reset();
    look.mutate(next);
  };
  const problem = error ?? look.error ?? save.error;
  return (
    <section aria-labelledby="labels" className="max-w-5xl">
      <h1 id="labels" className="mb-1 text-[20px] font-semibold">
        Labels
      </h1>
      <p className="max-w-prose text-ink-soft">
        Where a store doesn’t say how sensitive something is, say it here: by where it is, by its name, or for a whole
        store. What a store says itself only counts where it is stricter. The register and Ways in show where each
        item’s label comes from.
      </p>
      {problem && <Notice tone="wrong">{problem.message}</Notice>}
      {viewer.mayChange && <NewRule onPreview={(rule) => preview({ rule })} />}
      {change && look.data && (
        <Outlook
          outlook={look.data}
          isEnd={"ends" in change}
          isBusy={save.isPending}
          onSave={() => save.mutate(look.data)}
          onClose={() => setChange(null)}
        />
      )}
      {data?.rules.length === 0 && (
        <div className="mt-4">
          <Notice>There are no label rules. Labels are what the stores say.</Notice>
        </div>
      )}
      <ul className="mt-3">
        {data?.rules.map((rule) => (
          <RuleLine key={rule.id} rule={rule} onEnd={viewer.mayChange ? () => preview({ ends: rule.id }) : undefined} />
        ))}
      </ul>
    </section>
  );
}

const ON_WORDS = { place: "what is in", name: "names like", store: "all of" } as const;

function RuleLine({ rule, onEnd }: { rule: LabelRuleTold; onEnd?: () => void }) {
  const dates = useDates();
  const { label, on, of, words, setBy, setAt } = rule;
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-1.5">
      <span className="w-28 shrink-0 font-semibold">{begun(label)}</span>
      <span className="min-w-0 grow wrap-anywhere">
        {ON_WORDS[on]} <b className="font-semibold">{words ?? of}</b>
        <span className="block text-[12px] text-ink-faint">
          set by {setBy} on {dates.day(setAt)}
        </span>
      </span>
      {onEnd && <Button onClick={onEnd}>End it…</Button>}
    </li>
  );
}

function NewRule({ onPreview }: { onPreview: (rule: Rule) => void }) {
  const [label, setLabel] = useState<Label>("confidential");
  const [on, setOn] = useState<Rule["on"]>("place");
  const [of, setOf] = useState("");
  const stores = useQuery(asked(storesOperations.storesTold));
  const known = (stores.data?.stores ?? []).flatMap(({ storeId, name }) =>
    storeId === null ? [] : [{ value: storeId, words: name }],
  );
  const pick = (next: Rule["on"]) => {
    setOn(next);
    setOf(next === "store" ? (known[0]?.value ?? "") : "");
  };
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        onPreview({ label, on, of });
      }}
    >
      <Choice
        label="Label"
        value={label}
        choices={LABELS.map((value) => ({ value, words: value }))}
        onPick={setLabel}
      />
      <Choice
        label="for"
        value={on}
        choices={(["place", "name", "store"] as const).map((value) => ({ value, words: ON_WORDS[value] }))}
        onPick={pick}
      />
      {on === "place" && <PlaceField onPick={setOf} />}
      {on === "name" && (
        <div className="-mb-3 w-72">
          <Field
            label="Pattern (* is anything, ? one character)"
            required
            value={of}
            placeholder="*payroll*"
            onChange={({ target }) => setOf(target.value)}
          />
        </div>
      )}
      {on === "store" && <Choice label="the store" value={of} choices={known} onPick={setOf} />}
      <Button type="submit" disabled={of === ""}>
        Preview it
      </Button>
    </form>
  );
}

function PlaceField({ onPick }: { onPick: (id: string) => void }) {
  const [name, setName] = useState<string | null>(null);
  if (name !== null)
    return (
      <span className="flex items-center gap-2">
        <b className="font-semibold">{name}</b>
        <Button
          onClick={() => {
            setName(null);
            onPick("");
          }}
        >
          Another
        </Button>
      </span>
    );
  return (
    <Finder
      label="A folder, space or file"
      placeholder="name of a folder or file"
      kinds={["item"]}
      value=""
      onPick={(item, words) => {
        if (!item) return;
        setName(words);
        onPick(item.id);
      }}
    />
  );
}

interface OutlookProps {
  outlook: LabelOutlookTold;
  isEnd: boolean;
  isBusy: boolean;
  onSave: () => void;
  onClose: () => void;
}

function Outlook({ outlook: { count, turns }, isEnd, isBusy, onSave, onClose }: OutlookProps) {
  return (
    <div className="mt-3 border border-line bg-surface px-4 py-3">
      <p className="font-semibold">
        {count === 0 ? "No item gets another label." : `${countWords(count, "item")} would get another label.`}
      </p>
      {turns.map(({ from, to, count: some, items }) => (
        <p key={`${from} ${to}`} className="mt-1">
          {countWords(some, "item")} from {from} to <b className="font-semibold">{to}</b>:{" "}
          <span className="text-ink-soft">
            {items
              .slice(0, SHOWN)
              .map(({ name, place }) => [...place.slice(1), name].join(" / "))
              .join("; ")}
            {some > SHOWN && " and more"}
          </span>
        </p>
      ))}
      <p className="mt-2 flex gap-2">
        <Button look="act" disabled={isBusy} onClick={onSave}>
          {isEnd ? "End the rule" : "Save the rule"}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
    </div>
  );
}
const SHOWN = 5;
