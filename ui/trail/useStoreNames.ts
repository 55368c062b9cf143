"use client";

import { useQuery } from "@tanstack/react-query";
import { api } from "../parts/api";

/** What people call the stores that acts come from. */
export function useStoreNames(): (id: string) => string {
  const { data } = useQuery({
    queryKey: ["stores"],
    queryFn: ({ signal }) => api<{ stores: { id: string; name: string }[] }>("/api/stores", { signal }),
    staleTime: 60_000,
  });
  return (id) => (id === "file" ? "An estate file" : (data?.stores.find((one) => one.id === id)?.name ?? id));
}
