import type { Seconds } from "../time/instant";
import type { Trail } from "./trail";
import { isVerb, USING } from "./verbs";

/** Who used some shares, as far as their stores tell. */
export interface Users {
  people: number;
  /** How many of the shares were used by somebody whom no store names. */
  unnamed: number;
}

/** @param from uses at that instant and later count */
export function usersOf(trail: Trail, shares: readonly string[], from: Seconds): Users {
  const isAsked = trail.spoken.flags("share", shares);
  const isUse = trail.kinds.map(({ verb }) => isVerb(verb) && USING.includes(verb));
  const people = new Set<string>();
  const unnamed = new Set<string>();
  for (let row = trail.rowAt(from); row < trail.length; row++) {
    const share = trail.parts.share[row];
    if (isAsked[share] === 0 || !isUse[trail.kind[row]]) continue;
    const who = trail.spoken.all[trail.parts.who[row]];
    if (who?.kind === "person") people.add(who.key);
    else unnamed.add(trail.spoken.all[share]!.key);
  }
  return { people: people.size, unnamed: unnamed.size };
}
