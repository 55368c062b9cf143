import type { Desk } from "@/contract/desk";

type Alert = Desk["alerts"][number];

/** So many alerts of one watch are listed; the others stand together in one line. */
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
  // One more by itself takes no more room than the line that would stand for it.
  return [...groups.values()].map((all) => {
    const shown = all.length === OF_ONE_WATCH + 1 ? all.length : OF_ONE_WATCH;
    return { alerts: all.slice(0, shown), more: Math.max(0, all.length - shown) };
  });
}
