"use client";

import { useId, useState } from "react";
import { sharingOperations } from "@/contract/sharing";
import { ask } from "../parts/ask";
import { SettingForm } from "./SettingForm";

/** What the mail to those whom a share is for says in our own words. */
export function WordsForm({ first }: { first: string }) {
  const [words, setWords] = useState(first);
  const id = useId();
  return (
    <SettingForm
      title="What the mail says"
      save={() => ask(sharingOperations.setShareWords, { body: { words } })}
      words="Save the text"
      isOff={words === first}
    >
      <label htmlFor={id} className="mb-2 block max-w-prose text-ink-soft">
        People get one mail about a new share: what it is, until when, and the link. Add words of your own, such as who
        you are and how to reach you.
      </label>
      <textarea
        id={id}
        rows={3}
        maxLength={1000}
        value={words}
        onChange={({ target }) => setWords(target.value)}
        className="block w-full max-w-2xl rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
      />
    </SettingForm>
  );
}
