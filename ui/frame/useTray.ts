"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Wish } from "@/core/changes/wish";
import type { TrayView } from "@/core/preview/docketView";
import { api } from "../parts/api";

const KEY = ["tray"];

export type DocketAct = "apply" | "pause" | "resume" | "retry" | "drop" | "take-over" | "stop";

/** The tray: what is staged, and how to stage, take out and apply. */
export function useTray() {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: KEY });
  const { data } = useQuery({ queryKey: KEY, queryFn: () => api<TrayView>("/api/tray") });
  const stage = useMutation({
    mutationFn: (changes: Wish[]) => api("/api/tray", { method: "POST", body: { changes } }),
    onSettled: refresh,
  });
  const unstage = useMutation({
    mutationFn: (subjects: string[] | null) => api("/api/tray", { method: "DELETE", body: { subjects } }),
    onSettled: refresh,
  });
  const act = useMutation({
    mutationFn: ({ docketId, act, reopened = 0 }: { docketId: string; act: DocketAct; reopened?: number }) =>
      api<{ applied?: "begun" | "asked" }>(`/api/dockets/${docketId}/${act}`, { method: "POST", body: { reopened } }),
    onSettled: refresh,
  });
  const problem = stage.error ?? unstage.error ?? act.error;
  return { tray: data, stage, unstage, act, refresh, problem: problem as Error | null };
}
