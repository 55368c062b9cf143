import { normaliseAddress } from "../estate/address";
import type { Estate } from "../estate/estate";
import { type LookAlike, LookAlikes } from "../outsiders/lookAlikes";
import { isMailboxProvider } from "../outsiders/providers";
import { stanceOf } from "../rules/parties";

/** What to know about an address before sharing with it. */
export interface AddressRemark {
  address: string;
  /** Null where nobody is known by this address. */
  name: string | null;
  insider: boolean;
  /** Neither they nor anybody in their organisation is known yet. */
  isNew: boolean;
  /** Objections, in sentences. */
  cautions: string[];
}

/** What is known about each of some addresses, and whom each can be mistaken for. */
export function remarksOn(estate: Estate, addresses: readonly string[]): AddressRemark[] {
  const distinct = [...new Set(addresses.map(normaliseAddress))];
  // They are taken only now: a domain that is known already would report no look-alikes.
  const asked = new Set(distinct.map((address) => estate.principals.describe(address).organisation));
  let known: LookAlikes | undefined;
  const alike = (organisation: string) => (known ??= knownDomains(estate, asked)).take(organisation);
  return distinct.map((address) => remarkOn(estate, address, alike));
}

function remarkOn(estate: Estate, address: string, alike: (organisation: string) => LookAlike[]): AddressRemark {
  const { principals, people } = estate;
  const index = principals.findAddress(address);
  const { organisation, insider } = principals.describe(address);
  const cautions: string[] = [];
  const isFirm = principals.organisations.includes(organisation);
  if (index !== undefined && principals.active[index] === 0)
    cautions.push(`${people[index].name} is no longer active, and would not get in.`);
  if (!insider) {
    const stance = stanceOf(estate, { organisation, address });
    if (stance === "denied") cautions.push(`Nothing is to be shared with ${organisation}.`);
    const isPrivate = stance === "personal" || isMailboxProvider(organisation);
    if (isPrivate) cautions.push("It is a private mailbox: no firm answers for who reads it.");
    if (stance !== "trusted" && !isPrivate)
      for (const like of alike(organisation)) {
        const other = otherOf(like, organisation);
        if (!estate.isSameFirm(organisation, other))
          cautions.push(`${organisation} ${LIKENESS_WORDS[like.likeness]} ${other}.`);
      }
  }
  const isNew = !insider && index === undefined;
  if (isNew)
    cautions.push(
      isFirm
        ? `Nothing has been shared with ${address} before.`
        : `Nothing has been shared with ${organisation} before.`,
    );
  return { address, name: index === undefined ? null : people[index].name, insider, isNew, cautions };
}

const LIKENESS_WORDS = {
  looks: "looks just like",
  edit: "is one character away from",
  ending: "has another ending than",
  word: "is one word away from",
} as const;

const otherOf = ({ domains }: LookAlike, organisation: string) =>
  domains.find((domain) => domain !== organisation) ?? organisation;

/** Our own domains and those of parties, engagements and everybody we share with, except those asked about. */
function knownDomains(estate: Estate, asked: ReadonlySet<string>): LookAlikes {
  const known = new LookAlikes();
  const denied = new Set([...estate.stances].filter(([, stance]) => stance !== "trusted").map(([domain]) => domain));
  const engaged = estate.engagements.flatMap(({ organisations }) => [...organisations]);
  const domains = [...estate.homeDomains, ...estate.stances.keys(), ...engaged, ...estate.principals.organisations];
  for (const domain of domains)
    if (!asked.has(domain) && !denied.has(domain) && !isMailboxProvider(domain)) known.take(domain);
  return known;
}
