"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { directoryOperations } from "@/contract/directory";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";

/** After how many days of suspension somebody counts as having left. */
export function LeftAfterPart({ days: before, mayChange }: { days: number; mayChange: boolean }) {
  const client = useQueryClient();
  const [days, setDays] = useState(String(before));
  const save = useMutation({
    mutationFn: () => ask(directoryOperations.setLeftAfter, { body: { days: Number(days) } }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section aria-labelledby="left-after" className="mt-8 max-w-3xl">
      <h2 id="left-after" className="text-[17px] font-semibold">
        Suspended for a long time
      </h2>
      <p className="text-ink-soft">
        Many directories suspend people but never delete them.
        {!mayChange && ` People suspended for ${countWords(before, "day")} count as having left.`}
      </p>
      {mayChange && (
        <form
          className="mt-2 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate();
          }}
        >
          <label htmlFor="left-after-days">Treat suspended people as leavers after</label>
          <input
            id="left-after-days"
            type="number"
            min={1}
            max={3650}
            required
            value={days}
            onChange={(event) => setDays(event.target.value)}
            className="h-[30px] w-20 rounded-[3px] border border-control bg-raised px-2 text-right tabular-nums"
          />
          <span>days.</span>
          <Button type="submit" disabled={save.isPending || days === String(before)}>
            Save
          </Button>
        </form>
      )}
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
    </section>
  );
}
