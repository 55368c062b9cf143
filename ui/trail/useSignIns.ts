"use client";

import { useQuery } from "@tanstack/react-query";
import { peopleOperations, type SignIn } from "@/contract/people";
import { asked } from "../parts/ask";

/** Who can be told of things, and given them; nobody until that is known. */
export function useSignIns(): SignIn[] {
  const { data } = useQuery({
    ...asked(peopleOperations.people),
  });
  return data?.people ?? [];
}
