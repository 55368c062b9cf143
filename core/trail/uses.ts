import { domainOf, organisationOf } from "../estate/address";
import type { Seconds } from "../time/instant";
import type { Trail } from "./trail";
import { isVerb, USING } from "./verbs";

/** Who used one share, as far as stores report it. */
export interface ShareUse {
  shareId: string;
  people: { address: string; name: string }[];
  /** Whether somebody used it whom no store names. */
  unnamed: boolean;
}

/**
 * Who used some shares; unused ones are left out.
 * @param from uses at that instant and later count
 */
export function usesOf(trail: Trail, shares: readonly string[], from: Seconds): ShareUse[] {
  const isAsked = trail.spoken.flags("share", shares);
  const isUse = trail.kinds.map(({ verb }) => isVerb(verb) && USING.includes(verb));
  const uses = new Map<string, { people: Map<string, string>; unnamed: boolean }>();
  for (let row = trail.rowAt(from); row < trail.length; row++) {
    const share = trail.parts.share[row];
    if (isAsked[share] === 0 || !isUse[trail.kind[row]]) continue;
    const { key } = trail.spoken.all[share]!;
    const use = uses.get(key) ?? { people: new Map(), unnamed: false };
    const who = trail.spoken.all[trail.parts.who[row]];
    if (who?.kind === "person") use.people.set(who.key, who.name);
    else use.unnamed = true;
    uses.set(key, use);
  }
  return Array.from(uses, ([shareId, { people, unnamed }]) => ({
    shareId,
    people: Array.from(people, ([address, name]) => ({ address, name })),
    unnamed,
  }));
}

/** Ids of the shares that people of some organisations used, as far as stores tell who did. */
export function sharesUsedBy(trail: Trail, organisations: ReadonlySet<string>): string[] {
  const isTheirs = trail.spoken.all.map((one) => {
    return one?.kind === "person" && organisations.has(organisationOf(domainOf(one.key)));
  });
  const isUse = trail.kinds.map(({ verb }) => isVerb(verb) && USING.includes(verb));
  const found = new Set<number>();
  for (let row = 0; row < trail.length; row++)
    if (isTheirs[trail.parts.who[row]] && isUse[trail.kind[row]]) found.add(trail.parts.share[row]);
  return [...found].flatMap((share) => trail.spoken.all[share]?.key ?? []);
}
