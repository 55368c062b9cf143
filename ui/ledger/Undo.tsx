"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { docketsOperations } from "@/contract/dockets";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";

/** Puts together a docket that takes this one back, all of it or what is marked. */
export function Undo({ id, marked, onDone }: { id: string; marked: string[]; onDone: () => void }) {
  const client = useQueryClient();
  const undo = useMutation({
    mutationFn: (subjects: string[] | null) =>
      ask(docketsOperations.undoDocket, { params: { id }, body: { subjects } }),
    onSuccess: async () => {
      onDone();
      await client.invalidateQueries({ queryKey: keyOf(docketsOperations.docket, { id }) });
    },
  });
  return (
    <div className="mt-2">
      <div className="flex items-center gap-3">
        <Button disabled={undo.isPending || marked.length === 0} onClick={() => undo.mutate(marked)}>
          Undo {marked.length} marked
        </Button>
        <Button disabled={undo.isPending} onClick={() => undo.mutate(null)}>
          Undo all
        </Button>
        {undo.isIdle && <p className="text-ink-faint">Nothing changes until you have seen what it does.</p>}
      </div>
      {undo.error && <Notice tone="wrong">{undo.error.message}</Notice>}
      {undo.data && (
        <div role="status" className="mt-2">
          <Notice>
            An undo of this docket is ready to review.{" "}
            <Link href={`/ledger/dockets/${undo.data.docketId}`} className="text-verdigris underline">
              Preview it and apply it
            </Link>
            {undo.data.not.map(({ subject, itemName, why }) => (
              <span key={subject} className="block">
                {itemName} can&rsquo;t be undone: {why}
              </span>
            ))}
          </Notice>
        </div>
      )}
    </div>
  );
}
