"use client";

import { Popover } from "radix-ui";
import type { Field } from "@/core/query/fields";
import { Button } from "../parts/Button";
import type { QueryKind } from "./kind";

/** A printed reference of what can be asked. */
export function QueryHelp({ kind, onPick }: { kind: QueryKind; onPick: (name: string) => void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>What can be asked</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="What can be asked"
          align="end"
          sideOffset={6}
          className="z-20 max-h-[76vh] w-[620px] overflow-y-auto border border-line-strong bg-raised p-4 shadow-lg"
        >
          <p>
            All parts must hold. A minus in front turns one round, commas mean “or”, quotes keep words together. Words
            without a field look in {kind.wordsIn}, from the beginning of a word on.
          </p>
          <table className="mt-2 w-full">
            <caption className="sr-only">Examples</caption>
            <tbody>
              {kind.examples.map(([query, meaning]) => (
                <tr key={query} className="border-t border-line align-top">
                  <td className="py-1 pr-3 font-mono text-[12.5px]">{query}</td>
                  <td className="py-1 text-ink-soft">{meaning}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <table className="mt-3 w-full">
            <caption className="sr-only">Fields</caption>
            <tbody>
              {Object.entries(kind.fields).map(([name, field]) => (
                <tr key={name} className="border-t border-line align-top">
                  <th className="py-1 pr-3 text-left font-normal">
                    <Popover.Close className="font-mono text-verdigris underline" onClick={() => onPick(name)}>
                      {name}:
                    </Popover.Close>
                  </th>
                  <td className="py-1">
                    {field.help}
                    <span className="block font-mono text-[12px] text-ink-faint">{valueWords(field)}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function valueWords(field: Field): string {
  if (field.kind === "moment") return "<45d  >=2w  >12h  2026-03-31  >2026-03-31  >=2026-03-31T17:00Z  never";
  if (field.kind === "count") return "3  >5  <=100";
  return field.values ? [...field.values, "none"].join(", ") : "any words, none";
}
