"use client";

import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { Check } from "lucide-react";
import { parseAsInteger, parseAsStringLiteral, useQueryStates } from "nuqs";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { alertsOperations } from "@/contract/alerts";
import type { Alert } from "@/core/trail/alert";
import { ALERT_STATES } from "@/core/trail/watch";
import { useStandpoint } from "../frame/viewer";
import { asked } from "../parts/ask";
import { Link } from "../parts/Link";
import { MarkAllBox } from "../parts/MarkBox";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { useDates } from "../parts/useDates";
import { type Marking, useMarking } from "../parts/useMarking";
import { countWords, plainWords } from "../parts/words";
import { ManyAlerts } from "./ManyAlerts";
import { OneAlert } from "./OneAlert";
import { useAlertActs } from "./useAlertActs";

const PARTS = { state: parseAsStringLiteral(ALERT_STATES), alert: parseAsInteger };

/** What the watches found: looked at, given to somebody, settled; from each to its share, its ways and the tray. */
export function AlertsScreen() {
  return useStandpoint().past === null ? <AlertsNow /> : <OfNow />;
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
  const { viewer } = useStandpoint();
  const marking = useMarking(viewer.mayChange ? alerts.map(({ id }) => id) : []);
  const chosen = alerts.filter(({ id }) => marking.marked.has(id));
  return (
    <div className="grid lg:h-full lg:grid-cols-[minmax(0,1fr)_440px]">
      <div className="flex min-h-0 flex-col bg-raised">
        <div className="flex items-center gap-4 border-b border-line bg-surface px-3.5 py-2">
          {viewer.mayChange && <MarkAllBox marking={marking} />}
          <h1 className="text-[17px] font-semibold">Alerts</h1>
          <nav aria-label="Show" className="flex gap-3">
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
              {state === null ? "No open alerts. What the watches find appears here." : "No alerts match."}
            </Notice>
          </div>
        )}
        <AlertList
          marking={marking}
          alerts={alerts}
          at={at}
          onAt={(next) => void set({ alert: alerts[next]?.id ?? null })}
        />
      </div>
      <aside aria-label="Selected alerts" className="min-h-0 overflow-y-auto border-l border-line bg-surface px-5 py-4">
        {chosen.length > 0 ? (
          <ManyAlerts alerts={chosen} onDone={marking.clear} />
        ) : (
          open && <OneAlert key={open.id} alert={open} />
        )}
      </aside>
    </div>
  );
}

interface ListProps {
  marking: Marking<number>;
  alerts: Alert[];
  at: number;
  onAt: (at: number) => void;
}

/** Worked by keys: arrows move, space marks, x stages the revoke of the share, Enter opens it, t shows the ways in to the item. */
function AlertList({ marking, alerts, at, onAt }: ListProps) {
  const dates = useDates();
  const list = useRef<HTMLUListElement>(null);
  const { now } = useStandpoint();
  const act = useAlertActs(alerts[at]);
  const isThere = alerts.length > 0;
  useEffect(() => {
    if (isThere) list.current?.focus();
  }, [isThere]);
  const step = (by: number) => (isMarking: boolean) => {
    const next = Math.max(0, Math.min(at + by, alerts.length - 1));
    if (isMarking) marking.add([alerts[at].id, alerts[next].id]);
    onAt(next);
  };
  const keys: Record<string, (isMarking: boolean) => void> = {
    ArrowDown: step(1),
    ArrowUp: step(-1),
    " ": () => marking.toggle(alerts[at].id),
    a: marking.toggleAll,
    Escape: marking.clear,
    Enter: act.openShare,
    x: () => act.stageRevoke(alerts.filter(({ id }) => marking.marked.has(id))),
    t: act.ways,
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!isThere || event.ctrlKey || event.metaKey || event.altKey || !keys[event.key]) return;
    event.preventDefault();
    keys[event.key](event.shiftKey);
  };
  return (
    <ul
      ref={list}
      role="listbox"
      aria-label="Alerts"
      aria-multiselectable={marking.ids.length > 0}
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
          aria-selected={marking.ids.length > 0 ? marking.marked.has(alert.id) : index === at}
          onClick={() => onAt(index)}
          className={clsx(
            "grid cursor-default grid-cols-[16px_64px_minmax(0,1fr)_120px] gap-3 border-b border-line px-3.5 py-1.5",
            index === at && "bg-verdigris-soft",
          )}
        >
          <MarkSquare marking={marking} id={alert.id} />
          <span className={SEVERITY_LOOKS[alert.severity]}>{plainWords(alert.severity)}</span>
          <span className="min-w-0 wrap-anywhere">
            <span className={clsx(alert.state === "new" && "font-semibold")}>{alert.words}</span>
            <span className="block text-[12.5px] text-ink-faint">
              {[alert.watch ?? "A deleted watch", countWords(alert.count, "event"), alert.state]
                .concat(alert.assignedTo ? [`for ${alert.assignedTo}`] : [])
                .join(" · ")}
            </span>
          </span>
          <span className="text-right text-ink-soft">{dates.distance(alert.lastAt, now)}</span>
        </li>
      ))}
    </ul>
  );
}

const SEVERITY_LOOKS = { urgent: "font-semibold text-oxide", high: "text-copper", low: "text-ink-soft" };

/** Shows whether an option is marked, and marks it when it is clicked; for whoever hears the list, the option itself says it. */
function MarkSquare({ marking, id }: { marking: Marking<number>; id: number }) {
  const isOn = marking.marked.has(id);
  if (marking.ids.length === 0) return <span />;
  return (
    <span
      aria-hidden
      onClick={(event) => {
        event.stopPropagation();
        marking.toggle(id, event.shiftKey);
      }}
      className={clsx(
        "mt-0.5 flex select-none size-[15px] items-center justify-center rounded-[2px] border",
        isOn ? "border-verdigris bg-verdigris text-on-verdigris" : "border-control bg-raised",
      )}
    >
      {isOn && <Check size={12} strokeWidth={3.5} />}
    </span>
  );
}
