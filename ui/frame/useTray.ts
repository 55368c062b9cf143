"use client";

import { skipToken, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { docketsOperations } from "@/contract/dockets";
import type { z } from "zod";
import { leftOutWords } from "@/core/changes/holds";
import type { Intent, intentSchema } from "@/core/changes/intent";
import { shortlistOperations } from "@/contract/shortlist";
import { ask, keyOf } from "../parts/ask";

const KEY = keyOf(docketsOperations.tray);
const LEFT_KEY = ["left out at the last staging"];

/** What can be done with a docket as a whole, besides applying it. */
const ACTS = {
  pause: docketsOperations.pauseDocket,
  resume: docketsOperations.resumeDocket,
  retry: docketsOperations.retryDocket,
  drop: docketsOperations.dropDocket,
  "take-over": docketsOperations.takeOverDocket,
  stop: docketsOperations.stopDocket,
};
export type DocketAct = keyof typeof ACTS;

interface Asked {
  docketId: string;
  act: DocketAct;
}

/** What somebody has confirmed: the changes as shown, how many ended shares they reopen, and the docket's name. */
export interface Confirmed {
  digest: string;
  reopened: number;
  name?: string;
  reason?: string;
}

/** The tray: what is staged, and how to stage, take out and apply. */
export function useTray() {
  const client = useQueryClient();
  const refresh = async () => {
    await client.invalidateQueries({ queryKey: KEY });
    // Lists that ask about the tray have changed.
    await client.invalidateQueries({ predicate: ({ queryKey }) => JSON.stringify(queryKey).includes("docket:") });
  };
  // Told by whoever stages, and shown at the foot of the window.
  const { data: left = null } = useQuery<string | null>({ queryKey: LEFT_KEY, queryFn: skipToken });
  const tellLeft = (words: string | null) => void client.setQueryData(LEFT_KEY, words);
  const { data } = useQuery({ queryKey: KEY, queryFn: () => ask(docketsOperations.tray) });
  const stage = useMutation({
    // What only an undo may ask for is never offered to be staged; the server would refuse it.
    mutationFn: (given: Intent[] | { changes: Intent[]; query: string }) => {
      const { changes, query } = Array.isArray(given) ? { changes: given, query: undefined } : given;
      return ask(docketsOperations.stage, { body: { changes: changes as z.input<typeof intentSchema>[], query } });
    },
    onMutate: () => tellLeft(null),
    onSuccess: ({ left }) => tellLeft(leftOutWords(left)),
    onSettled: refresh,
  });
  /** The changes of a point of a shortlist, exactly as shown; if they have changed, they are shown again. */
  const stagePoint = useMutation({
    mutationFn: (body: { scope: string; changes: number; digest: string }) =>
      ask(shortlistOperations.stagePoint, { body }),
    onMutate: () => tellLeft(null),
    onSuccess: ({ left }) => tellLeft(leftOutWords(left)),
    onError: () => client.invalidateQueries({ queryKey: keyOf(shortlistOperations.curve) }),
    onSettled: refresh,
  });
  const unstage = useMutation({
    mutationFn: (subjects: string[] | null) => ask(docketsOperations.unstage, { body: { subjects } }),
    onMutate: () => tellLeft(null),
    onSettled: refresh,
  });
  const act = useMutation({
    mutationFn: ({ docketId, act }: Asked) => ask(ACTS[act], { params: { id: docketId } }),
    onSettled: refresh,
  });
  const apply = useMutation({
    mutationFn: ({ docketId, ...body }: Confirmed & { docketId: string }) =>
      ask(docketsOperations.applyDocket, { params: { id: docketId }, body }),
    onSettled: refresh,
  });
  const problem = stage.error ?? unstage.error ?? act.error ?? apply.error;
  return {
    tray: data,
    left,
    dismissLeft: () => tellLeft(null),
    stage,
    stagePoint,
    unstage,
    act,
    apply,
    refresh,
    problem: problem as Error | null,
  };
}
