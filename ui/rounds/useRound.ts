"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { roundsOperations } from "@/contract/rounds";
import { asked, keyOf } from "../parts/ask";

/** Until a round has been opened or closed, how far it has come is looked at that often. */
const SOON_MS = 1_000;
const NOW_AND_THEN_MS = 15_000;

export function useRound(id: string) {
  return useQuery({
    ...asked(roundsOperations.round, { params: { id } }),
    refetchInterval: ({ state }) => {
      const now = state.data?.state;
      return now === "opening" || now === "closing" || now === "planned" ? SOON_MS : NOW_AND_THEN_MS;
    },
  });
}

/** Does something with a round, and has all that is shown of rounds told anew. */
export function useRoundAct<Given, Answer>(act: (given: Given) => Promise<Answer>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(roundsOperations.rounds) }),
  });
}
