"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { docketsOperations } from "@/contract/dockets";
import type { z } from "zod";
import type { Intent, intentSchema } from "@/core/changes/intent";
import { ask, keyOf } from "../parts/ask";

const KEY = keyOf(docketsOperations.tray);

/** What can be done with a docket as a whole, besides applying it. */
const ACTS = {
  pause: docketsOperations.pauseDocket,
  resume: docketsOperations.resumeDocket,
  retry: docketsOperations.retryDocket,
  drop: docketsOperations.dropDocket,
  "take-over": docketsOperations.takeOverDocket,
  stop: docketsOperations.stopDocket,
};
export type DocketAct = "apply" | keyof typeof ACTS;

interface Asked {
  docketId: string;
  act: DocketAct;
  /** How many shares that are over somebody has said shall open again. */
  reopened?: number;
}

/** The tray: what is staged, and how to stage, take out and apply. */
export function useTray() {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: KEY });
  const { data } = useQuery({ queryKey: KEY, queryFn: () => ask(docketsOperations.tray) });
  const stage = useMutation({
    // What only an undo may ask for is never offered to be staged; the server would refuse it.
    mutationFn: (changes: Intent[]) =>
      ask(docketsOperations.stage, { body: { changes: changes as z.input<typeof intentSchema>[] } }),
    onSettled: refresh,
  });
  const unstage = useMutation({
    mutationFn: (subjects: string[] | null) => ask(docketsOperations.unstage, { body: { subjects } }),
    onSettled: refresh,
  });
  const act = useMutation({
    mutationFn: ({ docketId, act, reopened = 0 }: Asked): Promise<{ applied?: "begun" | "asked" }> => {
      const params = { id: docketId };
      if (act === "apply") return ask(docketsOperations.applyDocket, { params, body: { reopened } });
      return ask(ACTS[act], { params });
    },
    onSettled: refresh,
  });
  const problem = stage.error ?? unstage.error ?? act.error;
  return { tray: data, stage, unstage, act, refresh, problem: problem as Error | null };
}
