"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { importsOperations, type LookTold } from "@/contract/imports";
import type { FileReading } from "./ReadingPart";
import { ask, asked, askWithFile, keyOf } from "../parts/ask";

const NOW = keyOf(importsOperations.reportNow);
/** While something is done with it; and else, in case another window does something. */
const [OFTEN_MS, SELDOM_MS] = [400, 2_000];

/** The report that whoever looks has at hand: its file, and what is being done with it. */
export function useReport() {
  const client = useQueryClient();
  const [look, setLook] = useState<LookTold | null>(null);
  const { data } = useQuery({
    ...asked(importsOperations.reportNow),
    enabled: look !== null,
    refetchInterval: ({ state }) => (state.data?.hand?.step ? OFTEN_MS : SELDOM_MS),
  });
  const again = () => client.invalidateQueries({ queryKey: NOW });
  const imported = data?.hand?.imported ?? null;
  // Whatever is shown anywhere may be otherwise now; and how the report was read is kept.
  useEffect(() => {
    if (imported) void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey.join() !== NOW.join() });
  }, [client, imported]);
  const send = useMutation({
    mutationFn: (file: File) => askWithFile(importsOperations.sendReport, { query: { name: file.name } }, file),
    onMutate: () => setLook(null),
    onSuccess: async (answer) => {
      await client.resetQueries({ queryKey: NOW });
      setLook(answer);
    },
  });
  const lookAgain = useMutation({
    mutationFn: (body: Partial<FileReading>) => ask(importsOperations.lookAtReport, { body }),
    onSuccess: async (answer) => {
      setLook(answer);
      await again();
    },
  });
  return { look, hand: data?.hand ?? null, send, lookAgain, again };
}
