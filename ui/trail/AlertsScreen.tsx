"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { z } from "zod";
import clsx from "clsx";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { parseAsInteger, parseAsStringLiteral, useQueryStates } from "nuqs";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { alertsOperations } from "@/contract/alerts";
import type { Alert } from "@/core/trail/alert";
import { ALERT_STATES } from "@/core/trail/watch";
import { useTray } from "../frame/useTray";
import { useStandpoint } from "../frame/viewer";
import { ask, asked, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { countWords, distanceWords, plainWords } from "../parts/words";
import { zonedWords } from "@/core/time/zoned";
import { useSignIns } from "./useSignIns";

const PARTS = { state: parseAsStringLiteral(ALERT_STATES), alert: parseAsInteger };
const KEY = keyOf(alertsOperations.alerts);

/** What the watches found: looked at, given to somebody, settled; from each to its share, its ways and the tray. */
export function AlertsScreen() {
  return useStandpoint().past === null ? <AlertsNow /> : <OfNow what="Alerts tell" />;
}

function AlertsNow() {
  const [{ state, alert: openId }, set] = useQueryStates(PARTS);
  const list = useQuery({
    ...asked(alertsOperations.alerts, { query: { state } }),
    refetchInterval: 5_000,
  });
  const alerts = list.data?.alerts ?? [];
  const at = Math.max(
    alerts.findIndex(({ id }) => id === openId),
    0,
  );
  const open = alerts[at];
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_440px]">
      <div className="flex min-h-0 flex-col bg-raised">
        <div className="flex items-center gap-4 border-b border-line bg-surface px-3.5 py-2">
          <h1 className="text-[17px] font-semibold">Alerts</h1>
          <nav aria-label="Which" className="flex gap-3">
            {[null, ...ALERT_STATES].map((one) => (
              <button
                key={one ?? "open"}
                type="button"
                aria-pressed={state === one}
                onClick={() => void set({ state: one, alert: null })}
                className={clsx("text-verdigris underline", state === one && "font-semibold no-underline")}
              >
                {one === null ? "Not settled" : plainWords(one)}
              </button>
            ))}
          </nav>
          <span className="grow" />
          <Link href="/trail/watches" className="text-verdigris underline">
            Watches
          </Link>
        </div>
        {list.error && <Notice tone="wrong">{list.error.message}</Notice>}
        {list.data && alerts.length === 0 && (
          <div className="p-5">
            <Notice>
              {state === null ? "No alert is open. What the watches find comes here by itself." : "No alert is so."}
            </Notice>
          </div>
        )}
        <AlertList alerts={alerts} at={at} onAt={(next) => void set({ alert: alerts[next]?.id ?? null })} />
      </div>
      <aside aria-label="One alert" className="min-h-0 overflow-y-auto border-l border-line bg-surface px-5 py-4">
        {open && <OneAlert key={open.id} alert={open} />}
      </aside>
    </div>
  );
}

interface ListProps {
  alerts: Alert[];
  at: number;
  onAt: (at: number) => void;
}

/** Worked by keys: arrows move, x stages the revoke of the share, Enter opens it, t shows the ways in to the item. */
function AlertList({ alerts, at, onAt }: ListProps) {
  const list = useRef<HTMLUListElement>(null);
  const { now } = useStandpoint();
  const act = useAlertActs(alerts[at]);
  const isThere = alerts.length > 0;
  useEffect(() => {
    if (isThere) list.current?.focus();
  }, [isThere]);
  const keys: Record<string, () => void> = {
    ArrowDown: () => onAt(Math.min(at + 1, alerts.length - 1)),
    ArrowUp: () => onAt(Math.max(at - 1, 0)),
    Enter: act.openShare,
    x: act.stageRevoke,
    t: act.ways,
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || !keys[event.key]) return;
    event.preventDefault();
    keys[event.key]();
  };
  return (
    <ul
      ref={list}
      role="listbox"
      aria-label="Alerts"
      aria-activedescendant={isThere ? `alert-${alerts[at].id}` : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 grow overflow-y-auto"
    >
      {alerts.map((alert, index) => (
        <li
          key={alert.id}
          id={`alert-${alert.id}`}
          role="option"
          aria-selected={index === at}
          onClick={() => onAt(index)}
          className={clsx(
            "grid cursor-default grid-cols-[64px_minmax(0,1fr)_120px] gap-3 border-b border-line px-3.5 py-1.5",
            index === at && "bg-verdigris-soft",
          )}
        >
          <span className={SEVERITY_LOOKS[alert.severity]}>{plainWords(alert.severity)}</span>
          <span className="min-w-0 wrap-anywhere">
            <span className={clsx(alert.state === "new" && "font-semibold")}>{alert.words}</span>
            <span className="block text-[12.5px] text-ink-faint">
              {[alert.watch ?? "A watch that was dropped", countWords(alert.count, "event"), alert.state]
                .concat(alert.assignedTo ? [`for ${alert.assignedTo}`] : [])
                .join(" · ")}
            </span>
          </span>
          <span className="text-right text-ink-soft">{distanceWords(alert.lastAt, now)}</span>
        </li>
      ))}
    </ul>
  );
}

const SEVERITY_LOOKS = { urgent: "font-semibold text-oxide", high: "text-copper", low: "text-ink-soft" };

/** What can be done from an alert in one step. */
function useAlertActs(alert: Alert | undefined) {
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
    stageRevoke: () => {
      if (alert?.shareId && viewer.mayChange) stage.mutate([{ action: "revoke", shareId: alert.shareId }]);
    },
  };
}

function OneAlert({ alert }: { alert: Alert }) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const [note, setNote] = useState("");
  const [to, setTo] = useState(alert.assignedTo ?? "");
  const people = useSignIns();
  const act = useAlertActs(alert);
  const change = useMutation({
    mutationFn: (body: z.input<typeof alertsOperations.handleAlert.body>) =>
      ask(alertsOperations.handleAlert, { params: { id: String(alert.id) }, body }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEY }),
  });
  const isSettled = alert.state === "settled";
  return (
    <>
      <h2 className="text-[16px] leading-snug font-semibold wrap-anywhere">{alert.words}</h2>
      <p className="mt-1 text-ink-soft">
        {alert.watch ?? "A watch that was dropped"}. {countWords(alert.count, "event")}, first{" "}
        {zonedWords(alert.firstAt, "UTC")}
        {alert.lastAt !== alert.firstAt && `, last ${zonedWords(alert.lastAt, "UTC")}`} UTC.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        {alert.shareId && <Button onClick={act.openShare}>Open the share</Button>}
        {alert.itemId && <Button onClick={act.ways}>Ways in</Button>}
        {alert.shareId && viewer.mayChange && (
          <Button look="act" onClick={act.stageRevoke}>
            Stage its revoke
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
            <Button onClick={() => change.mutate({ act: "reopen" })}>Open it again</Button>
          ) : (
            <form
              className="mt-3"
              onSubmit={(event) => {
                event.preventDefault();
                change.mutate({ act: "settle", note });
              }}
            >
              <Field
                label="Settle with a note"
                value={note}
                required
                onChange={(event) => setNote(event.target.value)}
              />
              <Button type="submit">Settle</Button>
            </form>
          )}
          <form
            className="mt-4"
            onSubmit={(event) => {
              event.preventDefault();
              change.mutate({ act: "assign", to: to || null });
            }}
          >
            <label className="mb-3 block font-semibold">
              Given to
              <select
                value={to}
                onChange={(event) => setTo(event.target.value)}
                className="mt-1 block h-9 w-full rounded-[3px] border border-control bg-raised px-2 font-normal"
              >
                <option value="">Nobody</option>
                {to !== "" && !people.some(({ email }) => email === to) && <option>{to}</option>}
                {people.map(({ name, email }) => (
                  <option key={email} value={email}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <Button type="submit">Give</Button>
          </form>
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
