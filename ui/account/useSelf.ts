import { useMutation, useQueryClient } from "@tanstack/react-query";
import { peopleOperations } from "@/contract/people";
import { keyOf } from "../parts/ask";

/** Changes one's own account, and then shows it anew. */
export function useSelf<Given, Answer>(mutationFn: (given: Given) => Promise<Answer>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(peopleOperations.self) }),
  });
}
