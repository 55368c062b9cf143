"use client";

import { Popover } from "radix-ui";
import { FIELD_NAMES, type Field, FIELDS } from "@/core/query/fields";
import { Button } from "../parts/Button";

const EXAMPLES: [query: string, meaning: string][] = [
  ["reach:open -used:<45d", "open links that nobody used in the last 45 days"],
  ["itinerary,poster label:confidential", "one of two words, and a label"],
  ['maker:"imre.varga@wrenmoor.example"', "in quotes: just this value; without, a part of one"],
  ["ends:>=2026-12-01 ends:<2027-01-01", "from a day on, and before another"],
  ["organisation:none items:>100", "no value in a field; a count"],
];

/** A printed reference of what can be asked. */
export function QueryHelp({ onPick }: { onPick: (name: string) => void }) {
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
            without a field look in names, places, people and addresses, from the beginning of a word on.
          </p>
          <table className="mt-2 w-full">
            <caption className="sr-only">Examples</caption>
            <tbody>
              {EXAMPLES.map(([query, meaning]) => (
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
              {FIELD_NAMES.map((name) => (
                <tr key={name} className="border-t border-line align-top">
                  <th className="py-1 pr-3 text-left font-normal">
                    <Popover.Close className="font-mono text-verdigris underline" onClick={() => onPick(name)}>
                      {name}:
                    </Popover.Close>
                  </th>
                  <td className="py-1">
                    {FIELDS[name].help}
                    <span className="block font-mono text-[12px] text-ink-faint">{valueWords(FIELDS[name])}</span>
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
