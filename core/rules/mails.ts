import { byText } from "../text/text";
import type { Breach } from "./demand";
import type { RuleMails } from "./preview";

/** Who would be mailed about what breaks a rule, those with the most findings first. */
export function mailsOf(breaches: readonly Breach[]): RuleMails {
  const byOwner = new Map<string, Breach[]>();
  for (const breach of breaches)
    if (breach.owner !== null) byOwner.set(breach.owner, [...(byOwner.get(breach.owner) ?? []), breach]);
  const owners = [...byOwner].sort(([a, ofA], [b, ofB]) => ofB.length - ofA.length || byText(a, b));
  return {
    owners: owners.map(([address, all]) => ({ address, name: all[0].ownerName ?? address, findings: all.length })),
    sample: owners[0]?.[1] ?? [],
    ownerless: breaches.filter(({ owner }) => owner === null).length,
  };
}
