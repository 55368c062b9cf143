import type {
  EngagementRecord,
  EstateRecord,
  EventRecord,
  ItemRecord,
  LinkRecord,
  ShareRecord,
} from "../core/estate/records";
import { makeEvents } from "./events";
import { makeArrivals } from "./intake";
import { Calendar } from "./calendar";
import { type Items, makeItems } from "./items";
import { STORE_LIMITS } from "./limits";
import { HOME, makeOrganisation } from "./organisation";
import { Random } from "./random";
import { makeShares } from "./shares";

const SEED = 1789;

export interface Demo {
  /** What the house itself knows: its domains, parties and engagements. */
  house: EstateRecord[];
  /** The people whom each of the stores knows, and the groups and members of each that grants to groups. */
  directory: EstateRecord[];
  /** Since when people have been in their groups. */
  since: string;
  items: ItemRecord[];
  shares: ShareRecord[];
  /** Passwords by the ids of their links. */
  passwords: Map<string, string>;
  events: EventRecord[];
}

/** The Wrenmoor Philharmonic as it stands on a day: the same on every run for the same day. */
export function makeDemo(now: Date): Demo {
  const calendar = new Calendar(now);
  const random = new Random(SEED);
  const organisation = makeOrganisation(random, calendar);
  const items = makeItems(random, calendar, organisation);
  const { all: shares, passwords } = makeShares(random, calendar, organisation, items, STORE_LIMITS);
  const intake = shares.filter((share): share is LinkRecord => share.role === "deposit");
  const arrivals = makeArrivals(new Random(SEED + 1), calendar, intake, items.all, organisation.outsiders);
  const events = makeEvents(random, calendar, organisation, shares, arrivals);
  const head: EstateRecord = { type: "estate", version: 1, asOf: calendar.today, homeDomains: [HOME] };
  return {
    house: [head, ...organisation.parties, ...engagements(calendar, items)],
    directory: [...organisation.insiders, ...organisation.outsiders, ...organisation.groups, ...organisation.members],
    since: calendar.daysAgo(425),
    items: items.all,
    shares,
    passwords,
    events,
  };
}

/** Work with outsiders: two pieces that are over, one about to end, two running. Days from today. */
function engagements(calendar: Calendar, items: Items): EngagementRecord[] {
  const engagement = (
    id: string,
    name: string,
    paths: string[],
    organisations: string[],
    from: number,
    to: number,
  ): EngagementRecord => ({
    type: "engagement",
    id,
    name,
    itemIds: paths.map((path) => items.at(path).id),
    organisations,
    startsAt: calendar.daysAgo(from),
    endsAt: calendar.inDays(to),
  });
  return [
    engagement(
      "e-coast",
      "Coastal tour",
      ["Touring / Coastal tour"],
      ["quay-hall.example", "orrin-hall.example", "brindle-haulage.example", "post.example"],
      330,
      -164,
    ),
    engagement(
      "e-opera",
      "Opera co-production",
      ["Artistic Planning / Opera co-production"],
      ["opera-vell.example", "quayside-staging.example"],
      150,
      110,
    ),
    engagement(
      "e-record",
      "Recording of the Marsh Symphony",
      ["Recording, masters", "Score Library / Loans"],
      ["fathom-records.example"],
      260,
      -40,
    ),
    engagement("e-gala", "Gala", ["Development / Gala"], ["ferrant-events.example", "copperfield-bank.example"], 90, 6),
    engagement(
      "e-youth",
      "Youth exchange",
      ["Learning / Youth exchange"],
      ["lindweg-youth.example", "post.example"],
      100,
      60,
    ),
  ];
}
