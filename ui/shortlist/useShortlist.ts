"use client";

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { shortlistOperations } from "@/contract/shortlist";
import type { Weighing } from "@/core/advice/weighing";
import { ask, asked, keyOf } from "../parts/ask";

/** The frontier of a scope. */
export function useCurve(scope: string) {
  return useQuery(asked(shortlistOperations.curve, { query: { scope } }));
}

/** What one point is made of, and whom it touches; what was shown stays until the next has come. */
export function usePoint(scope: string, changes: number | undefined) {
  const query = { scope, changes: changes ?? 0 };
  const given = { enabled: changes !== undefined, placeholderData: keepPreviousData };
  const point = useQuery({ ...asked(shortlistOperations.curvePoint, { query }), ...given });
  const touched = useQuery({ ...asked(shortlistOperations.pointTouches, { query }), ...given });
  return { point, touched };
}

/** What counts, and how to set it; whatever hangs on it is asked again. */
export function useWeighing() {
  const client = useQueryClient();
  const { data } = useQuery(asked(shortlistOperations.weighing));
  const set = useMutation({
    mutationFn: (weighing: Weighing) => ask(shortlistOperations.setWeighing, { body: weighing }),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(shortlistOperations.curve) }),
  });
  return { weighing: data?.weighing, set };
}
