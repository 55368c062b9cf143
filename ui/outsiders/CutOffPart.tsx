"use client";

import { useState } from "react";
import type { OpenLeft } from "@/contract/outsiders";
import { type Organisation, PRIVATE_MAILBOXES } from "@/core/outsiders/organisations";
import { useTray } from "../frame/useTray";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";

interface Props {
  organisation: Organisation;
  open: readonly OpenLeft[];
}

/** Ends what an organisation has; what lets in anyone, and so its people too, is offered with it. */
export function CutOffPart({ organisation, open }: Props) {
  const { stage } = useTray();
  const [marked, setMarked] = useState<ReadonlySet<string>>(
    () => new Set(open.filter(({ used }) => used).map(({ id }) => id)),
  );
  const isFirm = organisation.domain !== PRIVATE_MAILBOXES && organisation.shares > 0;
  if (!isFirm && open.length === 0) return null;
  const mark = (id: string) =>
    setMarked((before) => {
      const after = new Set(before);
      if (!after.delete(id)) after.add(id);
      return after;
    });
  const act = () =>
    stage.mutate([
      ...(isFirm ? [{ action: "cut-off-organisation" as const, organisation: organisation.domain }] : []),
      ...[...marked].map((shareId) => ({ action: "revoke" as const, shareId })),
    ]);
  return (
    <section aria-label="Cut off" className="mt-4 border border-line bg-surface px-4 py-3">
      <h2 className="text-[15px] font-semibold">{isFirm ? "Cut it off" : "Open links they can use"}</h2>
      {isFirm && <p>Ends every grant, link invitation and group membership of its people, in all stores.</p>}
      {open.length > 0 && (
        <>
          <p className="mt-2">
            {isFirm ? "Open links would still let them in: anyone" : "Anyone"} who has the address can use them.{" "}
            {isFirm && "Revoke these too:"}
          </p>
          <ul className="mt-1 max-h-72 overflow-y-auto" tabIndex={0} aria-label="Open links">
            {open.map(({ id, item, place, used }) => (
              <li key={id} className="border-t border-line py-1">
                <label className="flex gap-2">
                  <input type="checkbox" checked={marked.has(id)} onChange={() => mark(id)} />
                  <span>
                    {item}
                    <span className="block text-[12px] text-ink-faint">
                      {place.join(" / ")}
                      {used ? ": their people have used it" : ": they also have access by name"}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-3">
        <Button className="text-oxide" disabled={stage.isPending || (!isFirm && marked.size === 0)} onClick={act}>
          {isFirm
            ? `Add the cut-off${marked.size > 0 ? ` and ${countWords(marked.size, "revoke")}` : ""} to the docket`
            : marked.size === 0
              ? "Mark links to revoke"
              : `Add ${countWords(marked.size, "revoke")} to the docket`}
        </Button>
      </p>
      <p role="status" className="text-ink-soft">
        {stage.isSuccess && "It’s in the tray, with everything it needs. Nothing happens until you apply it."}
      </p>
      {stage.error && <Notice tone="wrong">{stage.error.message}</Notice>}
    </section>
  );
}
