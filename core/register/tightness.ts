import { type Label, LABELS } from "../estate/records";
import { Share } from "../estate/share";
import { storeAt } from "../estate/estate";
import { type Latch, LATCHES } from "../changes/latches";
import { latchesOf } from "../rules/latches";
import type { Register } from "./register";
import { STATES } from "./wayAndState";

/** How many of the outside shares that should have a latch shut have it shut. */
export interface Tightness {
  label: Label;
  latch: Latch;
  shut: number;
  /** Those that have it shut, and those for which a rule requires it, with or without a waiver. */
  should: number;
}

/** For each label and latch, over the live shares that reach outside. The register must have been brought to a time. */
export function tightnessOf(register: Register): Tightness[] {
  const { estate, listedSlots } = register;
  const table = LABELS.map(() => LATCHES.map(() => ({ shut: 0, should: 0 })));
  for (const slot of listedSlots) {
    if (register.fact(slot, "outside") === 0 || STATES[register.fact(slot, "state")] !== "live") continue;
    const share = new Share(estate, slot);
    const { capabilities } = storeAt(estate, share.position);
    const rules = [register.rulesOf(slot, "rules"), register.rulesOf(slot, "waived")] as const;
    const latches = latchesOf(share, estate.tree.kindAt(share.position), capabilities, ...rules);
    LATCHES.forEach((latch, column) => {
      const cell = table[register.fact(slot, "label")][column];
      const isShut = latches[latch] === "shut";
      cell.shut += Number(isShut);
      cell.should += Number(isShut || latches[latch] === "demanded" || latches[latch] === "waived");
    });
  }
  return LABELS.flatMap((label, row) => LATCHES.map((latch, column) => ({ label, latch, ...table[row][column] })));
}
