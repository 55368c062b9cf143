import type { clearingOperations } from "@/contract/clearing";
import { monthsBefore } from "@/core/clearing/overLinks";
import type { Carrying } from "../dockets/carrying";
import type { Handlers } from "../platform/serving";
import { clearingSetting, monthsCleared, setClearing } from "./clearing";

const MONTHS = 12;

export const clearingHandlers: Handlers<Carrying, typeof clearingOperations> = {
  async overLinks({ engine, db, clock }) {
    const setting = await clearingSetting(db);
    const now = clock.seconds();
    const months = await monthsCleared(db);
    const isDone = months.some(({ month }) => month === clock.text().slice(0, 7));
    const next = setting.on ? (isDone ? nextMonth(now) : now) : null;
    return { ...(await engine.ask("overLinks", { instants: monthsBefore(now, MONTHS) })), setting, next, months };
  },
  async setClearing({ db }, { actor, body }) {
    await setClearing(db, body, actor.email);
    return {};
  },
};

function nextMonth(now: number): number {
  const date = new Date(now * 1_000);
  return Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + 1, 1) / 1_000;
}
