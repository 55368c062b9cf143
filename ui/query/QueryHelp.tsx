"use client";

import { Popover } from "radix-ui";
import type { Field } from "@/core/query/fields";
import { Button } from "../parts/Button";
import type { QueryKind } from "./kind";

/** How parts of a query go together, in every list that is asked by one. */
export const QUERY_RULES =
  "All parts must match. A minus in front excludes, commas mean “or”, quotes keep words together.";

/** A printed reference of what can be asked. */
export function QueryHelp({ kind, onPick }: { kind: QueryKind; onPick: (name: string) => void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>Search help</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Search help"
          align="end"
          sideOffset={6}
          className="z-20 max-h-[76vh] w-[620px] overflow-y-auto border border-line-strong bg-raised p-4 shadow-lg"
        >
          <p>
            {QUERY_RULES} Words without a field search {kind.wordsIn}, from the start of a word.
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
