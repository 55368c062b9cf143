"use client";

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { estateOperations } from "@/contract/estate";
import { registerOperations } from "@/contract/register";
import { type AdviceScope, EVERYTHING, printScope } from "@/core/advice/scope";
import { LABELS } from "@/core/estate/records";
import { asked } from "../parts/ask";
import { Finder } from "../parts/Finder";
import { Slot } from "../parts/ListSlot";

interface Props {
  title: string;
  /** Told a scope as it stands in an address. */
  onChoose: (scope: string) => void;
}

/** What the shortlist is for: everything, a store, a label, a project, or what somebody owns. */
export function ScopeSlot({ title, onChoose }: Props) {
  const stores = useQuery({ ...asked(estateOperations.stores), staleTime: 60_000 });
  const projects = useQuery({
    ...asked(registerOperations.values, { query: { field: "engagement" } }),
    staleTime: 60_000,
  });
  const choose = (scope: AdviceScope) => onChoose(printScope(scope));
  const choices: [heading: string, AdviceScope["of"], { value: string; title: string }[]][] = [
    ["A store", "store", (stores.data?.stores ?? []).map(({ id, name }) => ({ value: id, title: name }))],
    ["A label", "label", [...LABELS].reverse().map((label) => ({ value: label, title: label }))],
    ["A project", "engagement", (projects.data?.values ?? []).filter(({ value }) => value !== "")],
  ];
  return (
    <Slot label="Scope" words={title}>
      <Choice title="Everything" onChoose={() => choose(EVERYTHING)} />
      {choices.map(
        ([heading, of, all]) =>
          all.length > 0 && (
            <section key={of} aria-label={heading} className="mt-2 border-t border-line pt-1">
              <h3 className="text-[12px] font-semibold text-ink-faint">{heading}</h3>
              <ul className="flex max-h-[130px] flex-wrap gap-x-4 overflow-y-auto">
                {all.map(({ value, title }) => (
                  <li key={value}>
                    <Choice title={title} onChoose={() => choose({ of, id: value } as AdviceScope)} />
                  </li>
                ))}
              </ul>
            </section>
          ),
      )}
      <section aria-label="What somebody owns" className="mt-2 border-t border-line pt-1">
        <h3 className="mb-1 text-[12px] font-semibold text-ink-faint">What somebody owns</h3>
        <Finder
          label="Owner"
          placeholder="A name or an address"
          kinds={["person"]}
          value=""
          onPick={(person) => person && choose({ of: "owner", id: person.id })}
        />
      </section>
    </Slot>
  );
}

function Choice({ title, onChoose }: { title: string; onChoose: () => void }) {
  return (
    <Popover.Close onClick={onChoose} className="py-0.5 text-left text-verdigris underline">
      {title}
    </Popover.Close>
  );
}
