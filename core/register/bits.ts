import { LATCHES } from "../changes/latches";
import { rulesIn } from "../rules/findings";
import { latchOf } from "../rules/latches";

/** A bit for each of some values, by its place in the list of all. */
export function bits<T>(of: readonly T[], among: readonly T[]): number {
  return of.reduce((sum, one) => sum | (1 << among.indexOf(one)), 0);
}

const knownLatches = new Map<number, number>();

/** A bit for each latch that rules require, from the bits of the rules. */
export function latchesDemanded(broken: number): number {
  let latches = knownLatches.get(broken);
  if (latches === undefined) {
    const demanded = rulesIn(broken).map((rule) => latchOf(rule));
    latches = bits(
      [...new Set(demanded)].filter((latch) => latch !== undefined),
      LATCHES,
    );
    knownLatches.set(broken, latches);
  }
  return latches;
}
