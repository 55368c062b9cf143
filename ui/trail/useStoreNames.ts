"use client";

import { estateOperations } from "@/contract/estate";
import { useQuery } from "@tanstack/react-query";
import { asked } from "../parts/ask";

/** What people call the stores that events come from. */
export function useStoreNames(): (id: string) => string {
  const { data } = useQuery({
    ...asked(estateOperations.stores),
    staleTime: 60_000,
  });
  return (id) => (id === "file" ? "An estate file" : (data?.stores.find((one) => one.id === id)?.name ?? id));
}
