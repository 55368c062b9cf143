"use client";

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { waysInOperations } from "@/contract/waysIn";
import type { Found } from "@/core/access/ways";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "./ask";
import { Combobox } from "./Combobox";

/** What was picked. */
export type Subject = { kind: "item" | "person" | "organisation"; id: string };

/** Something that was found by name, in words. */
export interface FoundSubject extends Subject {
  words: string;
  more: string;
}

interface Props {
  label: string;
  placeholder: string;
  /** What it may find; `owners` are people who can own something. */
  kinds: (Subject["kind"] | "owner")[];
  /** What is picked now, in words; empty for nothing. */
  value: string;
  /** @param words what it is called */
  onPick: (subject: Subject | null, words: string) => void;
}

/** A field that finds items, people and organisations by what is typed, and offers them in a list. */
export function Finder({ label, placeholder, kinds, value, onPick }: Props) {
  const { past } = useStandpoint();
  const [text, setText] = useState<string | null>(null);
  const owners = kinds.includes("owner");
  const { data } = useQuery({
    queryKey: [...keyOf(waysInOperations.find), text, owners, past],
    queryFn: ({ signal }) => ask(waysInOperations.find, { query: { text: text!, owners }, past, signal }),
    enabled: text !== null && text.trim().length > 1,
  });
  const choices =
    text === null || !data
      ? []
      : subjectsOf(data).filter(({ kind }) => kinds.includes(kind) || (owners && kind === "person"));
  return (
    <Combobox
      {...{ label, placeholder, value, text }}
      isLabelHidden
      className="w-[330px] [&_input]:text-[15px] [&_input]:font-semibold"
      onText={(typed) => {
        setText(typed);
        if (typed === "") onPick(null, "");
      }}
      choices={choices.map((one) => ({ ...one, subject: one.id, id: `${one.kind} ${one.id}` }))}
      onPick={(choice) => onPick(choice && { kind: choice.kind, id: choice.subject }, choice?.words ?? "")}
    />
  );
}

const STATUS = { active: "", suspended: ", suspended", left: ", has left" };

export function subjectsOf(found: Found): FoundSubject[] {
  return [
    ...found.items.map((one) => ({ kind: "item" as const, id: one.id, words: one.name, more: one.place.join(" / ") })),
    ...found.organisations.map((one) => ({
      kind: "organisation" as const,
      id: one,
      words: one,
      more: "everybody at this organisation",
    })),
    ...found.people.map((one) => ({
      kind: "person" as const,
      id: one.address,
      words: one.name,
      more: one.address + STATUS[one.status],
    })),
  ];
}
