"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type LeaverOwn, leaversOperations } from "@/contract/leavers";
import { useStandpoint } from "../frame/viewer";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords, listWords } from "../parts/words";

/** What a leaver set going here: waivers that they stood for, and watches that they made. */
export function OwnPart({ address, own }: { address: string; own: LeaverOwn }) {
  const { viewer, past } = useStandpoint();
  const client = useQueryClient();
  const end = useMutation({
    mutationFn: () => ask(leaversOperations.endOwn, { body: { address, ...own } }),
    onSettled: () => client.invalidateQueries(),
  });
  const parts = [
    ...(own.waivers > 0 ? [countWords(own.waivers, "waiver")] : []),
    ...(own.watches > 0 ? [countWords(own.watches, "watch", "watches")] : []),
  ];
  return (
    <section aria-label="Waivers and watches" className="mt-5">
      <h2 className="text-[15px] font-semibold">Waivers and watches</h2>
      <p>
        {listWords(parts)} of theirs {own.waivers + own.watches === 1 ? "goes" : "go"} on. When waivers end, their rules
        apply again; watches are switched off and stay in the list.
      </p>
      {viewer.mayChange && past === null && (
        <p className="on-paper-none mt-2">
          <Button disabled={end.isPending} onClick={() => end.mutate()}>
            End them now
          </Button>
        </p>
      )}
      {end.error && <Notice tone="wrong">{end.error.message}</Notice>}
    </section>
  );
}
