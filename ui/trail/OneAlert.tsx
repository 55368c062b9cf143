"use client";

import type { Alert } from "@/core/trail/alert";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { useDates } from "../parts/useDates";
import { countWords } from "../parts/words";
import { AssignForm, SettleForm } from "./AlertForms";
import { useAlertActs, useHandling } from "./useAlertActs";

/** All of one alert, and what can be done with it. */
export function OneAlert({ alert }: { alert: Alert }) {
  const dates = useDates();
  const { viewer } = useStandpoint();
  const act = useAlertActs(alert);
  const change = useHandling([alert.id]);
  const isSettled = alert.state === "settled";
  return (
    <>
      <h2 className="text-[16px] leading-snug font-semibold wrap-anywhere">{alert.words}</h2>
      <p className="mt-1 text-ink-soft">
        {alert.watch ?? "A deleted watch"}. {countWords(alert.count, "event")}, first {dates.moment(alert.firstAt)}
        {alert.lastAt !== alert.firstAt && `, last ${dates.moment(alert.lastAt)}`}.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        {alert.shareId && <Button onClick={act.openShare}>Open the share</Button>}
        {alert.itemId && <Button onClick={act.ways}>Ways in</Button>}
        {alert.shareId && viewer.mayChange && (
          <Button look="act" onClick={() => act.stageRevoke()}>
            Add its revoke to the docket
          </Button>
        )}
      </div>
      <p className="mt-2">
        <Link href={`/trail?${eventsOf(alert)}`} className="text-verdigris underline">
          See the events on the trail
        </Link>
      </p>
      {isSettled && (
        <p className="mt-3 border-l-[3px] border-line-strong pl-3">
          Settled by {alert.settledBy}: {alert.note}
        </p>
      )}
      {viewer.mayChange && (
        <div className="mt-4 border-t border-line pt-3">
          {alert.state === "new" && <Button onClick={() => change.mutate({ act: "see" })}>Mark as seen</Button>}
          {isSettled ? (
            <Button onClick={() => change.mutate({ act: "reopen" })}>Reopen</Button>
          ) : (
            <SettleForm onSettle={(note) => change.mutate({ act: "settle", note })} />
          )}
          <AssignForm first={alert.assignedTo ?? ""} onAssign={(to) => change.mutate({ act: "assign", to })} />
        </div>
      )}
      {change.error && <Notice tone="wrong">{change.error.message}</Notice>}
    </>
  );
}

function eventsOf({ shareId, itemId, firstAt, lastAt }: Alert): URLSearchParams {
  const parameters = new URLSearchParams({ from: String(firstAt), to: String(lastAt + 1) });
  if (shareId) parameters.set("share", shareId);
  else if (itemId) parameters.set("item", itemId);
  return parameters;
}
