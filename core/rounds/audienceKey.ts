import type { Estate } from "../estate/estate";
import type { Share } from "../estate/share";

/** The audience that a round by person asks about: one outsider, one or several organisations, or holders of an address. */
export interface AudienceKey {
  key: string;
  title: string;
}

/** The audience of a share, so that one question can be asked about everything they have. */
export function audienceKeyOf(estate: Estate, share: Share): AudienceKey {
  const outsiders = [...share.outsiders].map((index) => estate.people[index]);
  if (share.audience === "open" || share.audience === "nobody")
    return { key: "open", title: "Whoever has the address" };
  if (outsiders.length === 0) return { key: "house", title: "People in-house" };
  if (outsiders.length === 1) {
    const [{ address, name, organisation }] = outsiders;
    return { key: `person ${address}`, title: `${name}, ${organisation}` };
  }
  const organisations = [...new Set(outsiders.map(({ organisation }) => organisation))].sort();
  return organisations.length === 1
    ? { key: `organisation ${organisations[0]}`, title: `People at ${organisations[0]}` }
    : { key: `organisations ${organisations.join(" ")}`, title: `People at ${organisations.join(", ")}` };
}
