"use client";

import { useQuery } from "@tanstack/react-query";
import type { SignIn } from "@/contract/signIn";
import { api } from "../parts/api";

/** Who can be told of things, and given them; nobody until that is known. */
export function useSignIns(): SignIn[] {
  const { data } = useQuery({
    queryKey: ["people"],
    queryFn: ({ signal }) => api<{ people: SignIn[] }>("/api/people", { signal }),
  });
  return data?.people ?? [];
}
