"use client";

import { listWords } from "../parts/words";
import { useQueryClient } from "@tanstack/react-query";
import type { Preview } from "@/core/preview/preview";
import { previewWords } from "@/core/preview/previewWords";
import type { DocketView } from "@/core/preview/docketView";
import { ConfirmApply } from "../frame/ConfirmApply";
import { docketsOperations } from "@/contract/dockets";
import { keyOf } from "../parts/ask";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

/** A docket that waits: it is applied, discarded, or approved by somebody else than whoever put it together. */
export function Waiting({ id, view, preview }: { id: string; view: DocketView; preview: Preview }) {
  const { viewer } = useStandpoint();
  const { act, apply, problem } = useTray();
  const client = useQueryClient();
  const { reasons, askedBy, madeBy, progress, digest, name, reason, needsReason } = view;
  const done = () => client.invalidateQueries({ queryKey: keyOf(docketsOperations.docket, { id }) });
  const author = askedBy ?? madeBy;
  const isOwnWork = reasons.length > 0 && author === viewer.address;
  const isAsked = isOwnWork && askedBy !== null;
  return (
    <>
      <div className="mt-2 flex items-center gap-3">
        <p className="grow">
          {previewWords(preview)}
          {progress.state === "preparing" && " Apply it from the tray."}
        </p>
        {problem && <Notice tone="wrong">{problem.message}</Notice>}
        {viewer.mayChange && (
          <>
            {progress.state === "waiting" && (
              <Button onClick={() => act.mutate({ docketId: id, act: "drop" }, { onSuccess: done })}>Discard</Button>
            )}
            {!isAsked && progress.state === "waiting" && digest && (
              <ConfirmApply
                shown={{ preview, count: progress.counts.staged, digest, name, reason, needsReason }}
                act={reasons.length === 0 ? "Apply" : isOwnWork ? "Ask to apply" : "Approve and apply"}
                apply={async (confirmed) => {
                  await apply.mutateAsync({ docketId: id, ...confirmed });
                  await done();
                }}
              />
            )}
          </>
        )}
      </div>
      {reasons.length > 0 && (
        <p className="mt-1 text-copper">
          Waiting for another administrator’s approval: {listWords(reasons)}.
          {isAsked && " You made it, so you can’t approve it yourself."}
        </p>
      )}
    </>
  );
}
