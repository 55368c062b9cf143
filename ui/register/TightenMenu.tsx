"use client";

import { DropdownMenu } from "radix-ui";
import { Button } from "../parts/Button";
import type { Staging } from "../staging/useStaging";
import { Key } from "../parts/Key";

interface Props {
  ids: string[];
  found: number;
  staging: Staging;
  onWaive: () => void;
}

/** What can be staged for the marked shares short of their end, with the key for each. */
export function TightenMenu({ ids, found, staging, onWaive }: Props) {
  const acts: [string, string, () => void, boolean][] = [
    ["e", "Set an end date", () => staging.ask("end", ids), ids.length > 0],
    ["p", "Set a password where there is none", () => staging.password(ids), ids.length > 0],
    ["P", "Replace their passwords", () => staging.password(ids, true), ids.length > 0],
    ["d", "Block their downloads", () => staging.block(ids), ids.length > 0],
    ["n", "Limit them to named people", () => staging.ask("addresses", ids), ids.length > 0],
    ["l", "Lower their role", () => staging.ask("role", ids), ids.length > 0],
    ["w", ids.length > 0 ? "Waive their findings" : "Waive all these findings", onWaive, ids.length > 0 || found > 0],
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button disabled={found === 0 && ids.length === 0}>Tighten</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="z-20 w-[290px] border border-line-strong bg-raised py-1 shadow-lg"
        >
          {acts.map(([key, words, act, isOn]) => (
            <DropdownMenu.Item
              key={key}
              disabled={!isOn}
              onSelect={act}
              className="flex cursor-default items-center justify-between px-3 py-1.5 outline-none data-[disabled]:text-ink-faint data-[highlighted]:bg-verdigris-soft"
            >
              {words} <Key>{key}</Key>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item
            onSelect={staging.clear}
            className="cursor-default px-3 py-1.5 outline-none data-[highlighted]:bg-verdigris-soft"
          >
            Clear all links that are broken, expired or used up
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
