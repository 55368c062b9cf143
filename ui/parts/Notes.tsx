"use client";

import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Button } from "./Button";
import { Notice } from "./Notice";
import { useDates } from "./useDates";

interface Props {
  /** On what they are, as the end of a phrase. */
  on: string;
  notes: readonly { author: string; at: string; text: string }[];
  /** Leaves another; null for whoever may not. */
  onLeave: ((text: string) => Promise<unknown>) | null;
}

/** What people have written on something. A note stays: it is in the ledger too. */
export function Notes({ on, notes, onLeave }: Props) {
  const dates = useDates();
  const [text, setText] = useState("");
  const leave = useMutation({ mutationFn: () => onLeave!(text), onSuccess: () => setText("") });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    leave.mutate();
  };
  if (notes.length === 0 && !onLeave) return null;
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
      {onLeave && (
        <form onSubmit={submit} className="mt-1 flex gap-2">
          <input
            required
            maxLength={2_000}
            aria-label={`A note on ${on}`}
            placeholder="Add a note"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-[30px] min-w-0 grow rounded-[3px] border border-control bg-raised px-2 placeholder:text-ink-faint"
          />
          <Button type="submit" disabled={leave.isPending}>
            Add note
          </Button>
        </form>
      )}
      {leave.error && <Notice tone="wrong">{leave.error.message}</Notice>}
    </section>
  );
}
