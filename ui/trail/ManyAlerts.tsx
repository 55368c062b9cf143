"use client";

import type { Alert } from "@/core/trail/alert";
import { useTray } from "../frame/useTray";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { AssignForm, SettleForm } from "./AlertForms";
import { useHandling } from "./useAlertActs";

/** What can be done with all marked alerts at once. */
export function ManyAlerts({ alerts, onDone }: { alerts: readonly Alert[]; onDone: () => void }) {
  const change = useHandling(alerts.map(({ id }) => id));
  const { stage } = useTray();
  const shareIds = [...new Set(alerts.flatMap(({ shareId }) => shareId ?? []))];
  const open = alerts.filter(({ state }) => state !== "settled").length;
  const andDone = { onSuccess: onDone };
  return (
    <>
      <h2 className="text-[16px] font-semibold">{countWords(alerts.length, "alert")} marked</h2>
      <p className="mt-1 text-ink-soft">
        They concern {countWords(shareIds.length, "share")}. Press Esc in the list to clear the marks.
      </p>
      {shareIds.length > 0 && (
        <Button
          look="act"
          className="mt-3"
          onClick={() => stage.mutate(shareIds.map((shareId) => ({ action: "revoke", shareId })))}
        >
          Add {shareIds.length === 1 ? "its revoke" : `${shareIds.length} revokes`} to the docket
        </Button>
      )}
      <div className="mt-4 border-t border-line pt-3">
        {alerts.some(({ state }) => state === "new") && (
          <Button onClick={() => change.mutate({ act: "see" }, andDone)}>Mark as seen</Button>
        )}
        {open === 0 ? (
          <Button onClick={() => change.mutate({ act: "reopen" }, andDone)}>Reopen</Button>
        ) : (
          <SettleForm onSettle={(note) => change.mutate({ act: "settle", note }, andDone)} />
        )}
        <AssignForm first="" onAssign={(to) => change.mutate({ act: "assign", to }, andDone)} />
      </div>
      {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
    </>
  );
}
