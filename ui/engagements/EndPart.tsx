"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type EngagementPage, engagementsOperations } from "@/contract/engagements";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { ExtendForm } from "./ExtendForm";

/** Gives an engagement another end, or ends it now. */
export function EndPart({ page: { engagement, graceDays } }: { page: EngagementPage }) {
  const { now } = useStandpoint();
  const client = useQueryClient();
  const { id, name, ends } = engagement;
  const [open, setOpen] = useState<"extend" | "end" | null>(null);
  const done = {
    onSuccess: async () => {
      await client.invalidateQueries();
      setOpen(null);
    },
  };
  const extend = useMutation({
    mutationFn: ({ at, reason }: { at: number; reason: string }) =>
      ask(engagementsOperations.extendEngagement, { body: { id, ends: rfc3339(at), reason } }),
    ...done,
  });
  const end = useMutation({ mutationFn: () => ask(engagementsOperations.endEngagement, { body: { id } }), ...done });
  return (
    <div className="mt-2">
      <p className="flex gap-2">
        <Button aria-expanded={open === "extend"} onClick={() => setOpen(open === "extend" ? null : "extend")}>
          Change the end date
        </Button>
        {ends > now && (
          <Button aria-expanded={open === "end"} onClick={() => setOpen(open === "end" ? null : "end")}>
            End it now
          </Button>
        )}
      </p>
      {open === "extend" && (
        <ExtendForm isPending={extend.isPending} now={now} onExtend={(at, reason) => extend.mutate({ at, reason })} />
      )}
      {open === "end" && (
        <div role="group" aria-label={`End ${name}`} className="mt-3 max-w-xl border border-oxide bg-surface px-4 py-3">
          <p>
            <b className="font-semibold">End {name} now?</b> Nothing is ended at once:{" "}
            {graceDays === 0 ? "within a minute" : `in ${countWords(graceDays, "day")}`} a docket with everything shared
            for it will be ready to review. You can change the end date until then.
          </p>
          <p className="mt-2 flex gap-2">
            <Button look="end" disabled={end.isPending} onClick={() => end.mutate()}>
              End it
            </Button>
            <Button onClick={() => setOpen(null)}>Cancel</Button>
          </p>
        </div>
      )}
      {(extend.error ?? end.error) && <Notice tone="wrong">{(extend.error ?? end.error)!.message}</Notice>}
    </div>
  );
}
