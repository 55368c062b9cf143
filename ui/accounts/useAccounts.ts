import { useMutation, useQueryClient } from "@tanstack/react-query";
import { peopleOperations } from "@/contract/people";
import { keyOf } from "../parts/ask";

/** Changes accounts, and then shows them anew. */
export function useAccounts<Given, Answer>(mutationFn: (given: Given) => Promise<Answer>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSettled: () => client.invalidateQueries({ queryKey: keyOf(peopleOperations.accounts) }),
  });
}
