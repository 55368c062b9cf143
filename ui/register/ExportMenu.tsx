"use client";

import { addressOf } from "@/contract/address";
import { registerOperations } from "@/contract/register";
import { Popover } from "radix-ui";
import { asOf } from "../frame/viewer";
import { Button } from "../parts/Button";
import { countWords } from "../parts/words";

const FORMATS: [format: string, title: string, help: string][] = [
  ["csv", "CSV", "for any program that reads tables"],
  ["xlsx", "XLSX", "a spreadsheet"],
  ["jsonl", "JSON Lines", "an estate file with these shares, their items, people and groups"],
];

/** The shares that the query finds, as a file. */
export function ExportMenu({
  query,
  order,
  past,
  found,
}: {
  query: string;
  order: string;
  past: string | null;
  found: number;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button disabled={found === 0}>Export</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Export"
          align="end"
          sideOffset={6}
          className="z-20 w-[380px] border border-line-strong bg-raised p-3 shadow-lg"
        >
          <p>
            {countWords(found, "share")}, in the order shown. Addresses of links are left out. The ledger records the
            export and who made it.
          </p>
          <ul className="mt-2">
            {FORMATS.map(([format, title, help]) => (
              <li key={format} className="border-t border-line py-1.5">
                <form
                  method="post"
                  action={addressOf(registerOperations.exportRegister, { past })}
                  className="flex items-center gap-3"
                >
                  <input type="hidden" name="query" value={query} />
                  <input type="hidden" name="order" value={order} />
                  <input type="hidden" name="format" value={format} />
                  <Button type="submit" className="w-28 shrink-0">
                    {title}
                  </Button>
                  <span className="text-ink-soft">{help}</span>
                </form>
              </li>
            ))}
            <li className="flex items-center gap-3 border-t border-line py-1.5">
              <a
                href={asOf(`/register/print?${new URLSearchParams({ q: query, sort: order })}`, past)}
                className="w-28 shrink-0 text-center text-verdigris underline"
              >
                Print
              </a>
              <span className="text-ink-soft">a plain page with the first 1,000</span>
            </li>
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
