import type { OutsideCount } from "../access/history";
import type { Register } from "./register";
import { STATES, WAYS } from "./wayAndState";

/** How many outside shares are live at the register's instant; the same as its history would say. */
export function outsideNow(register: Register): OutsideCount {
  const counts = { at: register.now, open: 0, named: 0, person: 0, group: 0 };
  for (const slot of register.listedSlots) {
    if (register.fact(slot, "outside") === 0 || STATES[register.fact(slot, "state")] !== "live") continue;
    counts[WAYS[register.fact(slot, "way")] as keyof typeof counts]++;
  }
  return counts;
}
