"use client";

import { useQuery } from "@tanstack/react-query";
import { estateOperations } from "@/contract/estate";
import { registerOperations } from "@/contract/register";
import { LABELS } from "@/core/estate/records";
import { SHARE_ROLES } from "@/core/estate/shares";
import type { Scope } from "@/core/rules/scope";
import { Finder } from "../parts/Finder";
import { Chosen, ListSlot, Slot } from "../parts/ListSlot";
import { slotWords } from "./ruleText";
import { asked } from "../parts/ask";

interface Props {
  scope: Scope;
  /** Where a rule is on items, neither organisations nor roles tell them apart. */
  isOnItems: boolean;
  mayChange: boolean;
  onTurn: (scope: Scope | undefined) => void;
}

type Part = keyof Scope;
interface Choice {
  value: string;
  title: string;
}
const asIs = (value: string): Choice => ({ value, title: value });

/** Where a rule runs, as the rest of its sentence. */
export function RuleScope({ scope, isOnItems, mayChange, onTurn }: Props) {
  const stores = useStores();
  const departments = useDepartments();
  const turn = (part: Part) => (chosen: string[]) => {
    const next = { ...scope, [part]: chosen.length === 0 ? undefined : chosen };
    const isWhole = Object.values(next).every((one) => one === undefined);
    onTurn(isWhole ? undefined : next);
  };
  const words = (part: Part, nothing: string, titles: Choice[] = []) => {
    const chosen = (scope[part] ?? []) as string[];
    if (chosen.length === 0) return nothing;
    return slotWords(chosen.map((one) => titles.find(({ value }) => value === one)?.title ?? one));
  };
  const list = (part: Part, label: string, nothing: string, choices: Choice[]) =>
    mayChange ? (
      <ListSlot
        label={label}
        words={words(part, nothing, choices)}
        choices={choices}
        chosen={(scope[part] ?? []) as string[]}
        onChoose={turn(part)}
      />
    ) : (
      <b className="font-semibold">{words(part, nothing, choices)}</b>
    );
  return (
    <p className="mt-1 leading-relaxed text-ink-soft">
      It applies to items labelled {list("labels", "Labels it applies to", "anything", LABELS.map(asIs))} in{" "}
      {list("stores", "Stores it applies to", "every store", stores)}, made by{" "}
      {list("departments", "Departments it applies to", "anybody", departments)}, located in{" "}
      {mayChange ? <Items items={scope.items ?? []} onChoose={turn("items")} /> : words("items", "any place")}
      {!isOnItems && (
        <>
          , for{" "}
          {mayChange ? (
            <Organisations organisations={scope.organisations ?? []} onChoose={turn("organisations")} />
          ) : (
            words("organisations", "any organisation")
          )}
          , with {list("roles", "Roles it applies to", "any role", SHARE_ROLES.map(asIs))}
        </>
      )}
      .
    </p>
  );
}

function Items({ items, onChoose }: { items: string[]; onChoose: (items: string[]) => void }) {
  return (
    <Slot
      label="Places it applies to"
      words={items.length === 0 ? "any place" : `${items.length} ${items.length === 1 ? "place" : "places"} and below`}
    >
      <Finder
        label="Item, and everything below it"
        placeholder="A folder or file"
        kinds={["item"]}
        value=""
        onPick={(subject) => subject && onChoose([...new Set([...items, subject.id])])}
      />
      <Chosen values={items.map(asIs)} onRemove={(value) => onChoose(items.filter((one) => one !== value))} />
    </Slot>
  );
}

function Organisations(props: { organisations: string[]; onChoose: (organisations: string[]) => void }) {
  const { organisations, onChoose } = props;
  return (
    <Slot
      label="Organisations it applies to"
      words={organisations.length === 0 ? "any organisation" : slotWords(organisations)}
    >
      <Finder
        label="Organisation"
        placeholder="A domain"
        kinds={["organisation"]}
        value=""
        onPick={(subject) => subject && onChoose([...new Set([...organisations, subject.id])])}
      />
      <Chosen
        values={organisations.map(asIs)}
        onRemove={(value) => onChoose(organisations.filter((one) => one !== value))}
      />
    </Slot>
  );
}

function useStores(): Choice[] {
  const { data } = useQuery({
    ...asked(estateOperations.stores),
    staleTime: 60_000,
  });
  return (data?.stores ?? []).map(({ id, name }) => ({ value: id, title: name }));
}

function useDepartments(): Choice[] {
  const { data } = useQuery({
    ...asked(registerOperations.values, { query: { field: "department" } }),
    staleTime: 60_000,
  });
  return (data?.values ?? []).filter(({ value }) => value !== "");
}
