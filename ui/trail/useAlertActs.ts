"use client";

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { alertsOperations } from "@/contract/alerts";
import type { BodyOf } from "@/contract/operation";
import type { Alert } from "@/core/trail/alert";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { ask, keyOf } from "../parts/ask";

type Does = BodyOf<(typeof alertsOperations)["handleAlerts"]>["does"];

/** Does the same with some alerts, all of them or none. */
export function useHandling(ids: readonly number[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (does: Does) => ask(alertsOperations.handleAlerts, { body: { ids: [...ids], does } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf(alertsOperations.alerts) }),
  });
}

/** What can be done from an alert in one step. */
export function useAlertActs(alert: Alert | undefined) {
  const router = useRouter();
  const { viewer } = useStandpoint();
  const { stage } = useTray();
  return {
    openShare: () => {
      if (alert?.shareId) router.push(`/register?share=${encodeURIComponent(alert.shareId)}`);
    },
    ways: () => {
      const person = alert?.person ? `&person=${encodeURIComponent(alert.person)}` : "";
      if (alert?.itemId) router.push(`/ways?item=${encodeURIComponent(alert.itemId)}${person}`);
    },
    /** Of the alert's share, or of those of all that are marked. */
    stageRevoke: (marked: readonly Alert[] = []) => {
      const chosen = marked.length > 0 ? marked : alert ? [alert] : [];
      const shareIds = [...new Set(chosen.flatMap(({ shareId }) => shareId ?? []))];
      if (shareIds.length > 0 && viewer.mayChange)
        stage.mutate(shareIds.map((shareId) => ({ action: "revoke", shareId })));
    },
  };
}
