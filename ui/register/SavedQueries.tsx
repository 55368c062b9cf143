"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { type FormEvent, useState } from "react";
import { registerOperations } from "@/contract/register";
import type { RegisterSettings } from "@/core/register/saved";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

interface Props {
  /** What stands in the address now. */
  view: string;
  settings: RegisterSettings | undefined;
  mayChange: boolean;
  past: string | null;
  onView: (view: string) => void;
}

/** Queries under names, one's own and those for all, each with how many shares it finds now. */
export function SavedQueries({ view, settings, mayChange, past, onView }: Props) {
  const [isOpen, setOpen] = useState(false);
  const client = useQueryClient();
  const { data, error } = useQuery({
    ...asked(registerOperations.savedQueries, { past }),
    enabled: isOpen,
  });
  const change = useMutation({
    mutationFn: (change: () => Promise<unknown>) => change(),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keyOf(registerOperations.savedQueries) });
      await client.invalidateQueries({ queryKey: keyOf(registerOperations.lookAtRegister) });
    },
  });
  const go = (to: string) => {
    onView(to);
    setOpen(false);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>Saved queries</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Saved queries"
          align="end"
          sideOffset={6}
          className="z-20 w-[440px] border border-line-strong bg-raised p-3 shadow-lg"
        >
          {settings?.lookedBefore && (
            <p className="mb-2">
              <button
                type="button"
                className="text-verdigris underline"
                onClick={() =>
                  go(new URLSearchParams({ q: sinceQuery(settings.lookedBefore!), sort: "made" }).toString())
                }
              >
                New since my last visit
              </button>{" "}
              <span className="text-ink-faint">{settings.lookedBefore.slice(0, 16).replace("T", ", ")} UTC</span>
            </p>
          )}
          {(error ?? change.error) && <Notice tone="wrong">{(error ?? change.error)!.message}</Notice>}
          {data?.queries.length === 0 && <p className="text-ink-soft">Nothing saved yet.</p>}
          <ul>
            {data?.queries.map((query) => (
              <li key={query.id} className="flex items-baseline gap-2 border-t border-line py-1">
                <button
                  type="button"
                  onClick={() => go(query.view)}
                  className="min-w-0 truncate text-verdigris underline"
                >
                  {query.name}
                </button>
                <span className="text-[12px] text-ink-faint">{query.forAll ? "for all" : "mine"}</span>
                <span className="ml-auto tabular-nums">{query.count.toLocaleString("en-GB")}</span>
                <button
                  type="button"
                  aria-pressed={settings?.start === query.id}
                  onClick={() =>
                    change.mutate(() =>
                      ask(registerOperations.setRegister, {
                        body: { start: settings?.start === query.id ? null : query.id },
                      }),
                    )
                  }
                  className="whitespace-nowrap text-verdigris underline"
                >
                  {settings?.start === query.id ? "Your start view" : "Start with this"}
                </button>
                {query.isOwn && (
                  <button
                    type="button"
                    aria-label={`Delete ${query.name}`}
                    onClick={() => change.mutate(() => ask(registerOperations.dropQuery, { params: { id: query.id } }))}
                    className="text-verdigris underline"
                  >
                    Delete
                  </button>
                )}
              </li>
            ))}
          </ul>
          <SaveForm
            mayChange={mayChange}
            onSave={(name, forAll) =>
              change.mutate(() => ask(registerOperations.saveQuery, { body: { name, forAll, view } }))
            }
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function sinceQuery(at: string): string {
  return `made:>=${at.slice(0, 16)}Z`;
}

function SaveForm({ mayChange, onSave }: { mayChange: boolean; onSave: (name: string, forAll: boolean) => void }) {
  const [name, setName] = useState("");
  const [forAll, setForAll] = useState(false);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSave(name, forAll);
    setName("");
  };
  return (
    <form onSubmit={submit} className="mt-2 flex items-center gap-2 border-t border-line-strong pt-2">
      <input
        required
        maxLength={80}
        aria-label="Name for this query"
        placeholder="Save this query as"
        value={name}
        onChange={(event) => setName(event.target.value)}
        className="h-[30px] min-w-0 grow rounded-[3px] border border-control bg-raised px-2 placeholder:text-ink-faint"
      />
      {mayChange && (
        <label className="flex items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            checked={forAll}
            onChange={(event) => setForAll(event.target.checked)}
            className="accent-verdigris"
          />
          for all
        </label>
      )}
      <Button type="submit" look="act">
        Save
      </Button>
    </form>
  );
}
