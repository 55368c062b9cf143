import type { Estate } from "../estate/estate";
import type { Seconds } from "../time/instant";
import { isLiveShare } from "./live";

/** For each position, by how many links anyone (or the whole house) comes in. */
export interface Crowds {
  open: Int32Array;
  house: Int32Array;
}

/**
 * Counts the open and house links over every position, in one pass: each link adds one where its range
 * begins and takes it off where it ends.
 *
 * @param excluded shares to be left out, for "what if these were gone"
 */
export function crowds(estate: Estate, t: Seconds, excluded: ReadonlySet<string>): Crowds {
  const { tree } = estate;
  const length = tree.ids.length;
  const counts: Crowds = { open: new Int32Array(length + 1), house: new Int32Array(length + 1) };
  for (const share of estate.shares) {
    const { kind } = share.audience;
    if ((kind !== "open" && kind !== "house") || excluded.has(share.id) || !isLiveShare(estate, share, t)) continue;
    counts[kind][share.position]++;
    counts[kind][tree.end[share.position]]--;
  }
  for (let position = 1; position < length; position++) {
    counts.open[position] += counts.open[position - 1];
    counts.house[position] += counts.house[position - 1];
  }
  return counts;
}
