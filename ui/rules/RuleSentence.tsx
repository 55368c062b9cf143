"use client";

import { LABELS } from "@/core/estate/records";
import type { RuleId } from "@/core/rules/list";
import type { RuleSetting } from "@/core/rules/mode";
import { Field } from "../parts/Field";
import { ListSlot, Slot } from "../parts/ListSlot";
import { sentencePieces, slotWords } from "./ruleText";

type Parameters = RuleSetting["parameters"];

interface Props {
  rule: RuleId;
  parameters: Parameters;
  mayChange: boolean;
  onTurn: (parameters: Parameters) => void;
}

const LABEL_CHOICES = LABELS.map((label) => ({ value: label, title: label }));

/** A rule as a sentence whose slots can be turned. */
export function RuleSentence({ rule, parameters, mayChange, onTurn }: Props) {
  return (
    <h2 className="text-[19px] leading-relaxed font-semibold">
      {sentencePieces(rule).map(({ text, isSlot }) =>
        isSlot ? (
          <SlotOf key={text} {...{ name: text, parameters, mayChange, onTurn }} />
        ) : (
          <span key={text}>{text}</span>
        ),
      )}
    </h2>
  );
}

function SlotOf({ name, parameters, mayChange, onTurn }: Omit<Props, "rule"> & { name: string }) {
  const value = parameters[name];
  const turn = (to: unknown) => onTurn({ ...parameters, [name]: to });
  if (!mayChange) return <span className="text-verdigris">{slotWords(value)}</span>;
  if (typeof value === "number")
    return (
      <input
        type="number"
        aria-label={NUMBER_WORDS[name] ?? name}
        min={0}
        value={Number.isNaN(value) ? "" : value}
        onChange={(event) => turn(event.target.valueAsNumber)}
        className="h-8 w-[58px] border-b-2 border-verdigris bg-transparent text-center font-semibold text-verdigris"
      />
    );
  const chosen = value as string[];
  if (name === "labels")
    return (
      <ListSlot label="Labels" words={slotWords(chosen)} choices={LABEL_CHOICES} chosen={chosen} onChoose={turn} />
    );
  return (
    <Slot label="Regions" words={chosen.length === 0 ? "any region" : slotWords(chosen)}>
      <Field
        label="Regions, separated by commas"
        hint="As the stores name them. If none is given, no store is checked."
        defaultValue={chosen.join(", ")}
        onChange={(event) => turn(event.target.value.split(",").flatMap((one) => one.trim() || []))}
      />
    </Slot>
  );
}

const NUMBER_WORDS: Record<string, string> = {
  maxDays: "Days",
  days: "Days",
  graceDays: "Days after its end",
  max: "Links at most",
  maxFiles: "Files at most",
  minLength: "Characters at least",
};
