import type { Desk } from "@/contract/desk";

type Alert = Desk["alerts"][number];

/** How many alerts of one watch are listed; the others share one line. */
const OF_ONE_WATCH = 2;

/** The alerts of one watch: the first of them, and how many more there are. */
export interface AlertGroup {
  alerts: Alert[];
  more: number;
}

/** Alerts by watch and severity, in the order in which the first of each came. */
export function alertGroups(alerts: readonly Alert[]): AlertGroup[] {
  const groups = new Map<string, Alert[]>();
  for (const alert of alerts) {
    const key = `${alert.severity} ${alert.watch ?? ""}`;
    groups.set(key, [...(groups.get(key) ?? []), alert]);
  }
  // A single further alert takes no more room than the line that would replace it.
  return [...groups.values()].map((all) => {
    const shown = all.length === OF_ONE_WATCH + 1 ? all.length : OF_ONE_WATCH;
    return { alerts: all.slice(0, shown), more: Math.max(0, all.length - shown) };
  });
}
