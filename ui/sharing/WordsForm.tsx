"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { sharingOperations } from "@/contract/sharing";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { SaveLine } from "./SaveLine";

/** What the mail to those whom a share is for says in our own words. */
export function WordsForm({ first }: { first: string }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const [words, setWords] = useState(first);
  const id = useId();
  const save = useMutation({
    mutationFn: () => ask(sharingOperations.setShareWords, { body: { words } }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <form
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="text-[17px] font-semibold">What the mail says</h2>
      <label htmlFor={id} className="mb-2 block max-w-prose text-ink-soft">
        People get one mail about a new share: what it is, until when, and the link. Add words of your own, such as who
        you are and how to reach you.
      </label>
      <fieldset disabled={!viewer.mayChange}>
        <textarea
          id={id}
          rows={3}
          maxLength={1000}
          value={words}
          onChange={({ target }) => setWords(target.value)}
          className="block w-full max-w-2xl rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
        />
        <SaveLine save={save} words="Save the text" isOff={words === first} />
      </fieldset>
    </form>
  );
}
