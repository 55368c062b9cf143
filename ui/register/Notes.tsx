"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { shareOperations } from "@/contract/share";
import type { Note } from "@/core/register/remarks";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";

/** What people have written on a share. A note stays: it is in the ledger too. */
export function Notes({ shareId, notes, mayChange }: { shareId: string; notes: Note[]; mayChange: boolean }) {
  const dates = useDates();
  const [text, setText] = useState("");
  const client = useQueryClient();
  const leave = useMutation({
    mutationFn: () => ask(shareOperations.leaveNote, { params: { id: shareId }, body: { text } }),
    onSuccess: () => {
      setText("");
      void client.invalidateQueries({ queryKey: keyOf(shareOperations.share, { id: shareId }) });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    leave.mutate();
  };
  if (notes.length === 0 && !mayChange) return null;
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Notes</h3>
      <ul>
        {notes.map((note) => (
          <li key={note.at + note.text} className="border-t border-line py-1 wrap-anywhere">
            {note.text}
            <span className="block text-ink-faint">
              {note.author}, {dates.moment(note.at)}
            </span>
          </li>
        ))}
      </ul>
      {mayChange && (
        <form onSubmit={submit} className="mt-1 flex gap-2">
          <input
            required
            maxLength={2_000}
            aria-label="A note on this share"
            placeholder="Leave a note"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-[30px] min-w-0 grow rounded-[3px] border border-control bg-raised px-2 placeholder:text-ink-faint"
          />
          <Button type="submit" disabled={leave.isPending}>
            Keep
          </Button>
        </form>
      )}
      {leave.error && <Notice tone="wrong">{leave.error.message}</Notice>}
    </section>
  );
}
