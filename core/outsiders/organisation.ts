import { overlaps } from "../access/ranges";
import { countReached, eachReached, reachTogether } from "../access/reach";
import { type NamedItem, namedItem } from "../access/ways";
import type { Access } from "../access/paths";
import type { WaysIn } from "../access/waysIn";
import type { Estate } from "../estate/estate";
import type { Person } from "../estate/principals";
import { LABELS } from "../estate/records";
import { byText } from "../text/text";
import type { Seconds } from "../time/instant";
import { PRIVATE_MAILBOXES } from "./organisations";

/** Somebody in an organisation, even if only their address is known. */
export interface OrganisationPerson {
  address: string;
  name: string;
  status: Person["status"];
  /** Shares that let them in, and live items that they reach by those. */
  shares: number;
  items: number;
}

/** What the people of one organisation reach by name, and what is open to them besides. */
export interface OrganisationSheet {
  /** Projects that name it, the one that ends last first. */
  projects: { id: string; name: string; ends: Seconds }[];
  /** Its domain, or all domains of private mailboxes. */
  domains: string[];
  people: OrganisationPerson[];
  /** Live items that they reach, by label, in the order of LABELS. */
  labels: number[];
  /** The most sensitive first, and no more than `MOST_ITEMS`. */
  items: (NamedItem & Access)[];
  /** Ids of the open links on what they reach, which let in whoever has the address. */
  open: string[];
}

const MOST_ITEMS = 500;

/** What the people of an organisation reach at t. @param domain of an organisation, or `PRIVATE_MAILBOXES` */
export function organisationSheet(estate: Estate, t: Seconds, domain: string, waysIn: WaysIn): OrganisationSheet {
  const people = peopleOf(estate, domain);
  const active = people.filter(({ status }) => status === "active").map(({ index }) => index);
  const reached = reachTogether(estate, t, active, waysIn);
  const ranges = reached.flatMap(({ from, to }) => [from, to]);
  const { end, label } = estate.tree;
  const byLabel: [number, Access][][] = LABELS.map(() => []);
  for (const one of eachReached(estate, reached)) byLabel[label[one[0]]].push(one);
  const first = byLabel.toReversed().flat().slice(0, MOST_ITEMS);
  return {
    projects: projectsWith(estate, domain),
    domains: [...new Set(people.map(({ organisation }) => organisation))].sort(),
    people: people.map((person) => personTold(estate, t, person, waysIn)),
    labels: byLabel.map(({ length }) => length),
    items: first.map(([at, access]) => ({ ...namedItem(estate, at), ...access })),
    open: waysIn
      .crowdAt("open", t)
      .ways.filter(({ position }) => overlaps(ranges, position, end[position]))
      .map(({ share }) => estate.shares.idOf(share)),
  };
}

function projectsWith({ engagements, stances }: Estate, domain: string) {
  const isNamed = (named: string) =>
    domain === PRIVATE_MAILBOXES ? stances.get(named) === "personal" : named === domain;
  return engagements
    .filter(({ organisations }) => [...organisations].some(isNamed))
    .map(({ record: { id, name }, ends }) => ({ id, name, ends }))
    .sort((a, b) => b.ends - a.ends);
}

function peopleOf({ everybody, stances }: Estate, domain: string): Person[] {
  const isTheirs = ({ organisation }: Person) =>
    domain === PRIVATE_MAILBOXES ? stances.get(organisation) === "personal" : organisation === domain;
  return everybody.filter((one) => !one.insider && isTheirs(one)).sort((a, b) => byText(a.address, b.address));
}

function personTold(estate: Estate, t: Seconds, person: Person, waysIn: WaysIn): OrganisationPerson {
  const { address, name, status, index } = person;
  const shares = waysIn.of(index, t).filter(({ share }) => share >= 0).length;
  const items = countReached(estate, reachTogether(estate, t, [index], waysIn));
  return { address, name, status, shares, items };
}
