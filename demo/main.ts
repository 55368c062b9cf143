import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import type { EngagementRecord, EstateRecord } from "../core/estate/records";
import { recordLine } from "../core/estate/estateFile";
import { makeActs } from "./acts";
import { Calendar } from "./calendar";
import { makeItems } from "./items";
import { STORE_LIMITS } from "./limits";
import { HOME, makeOrganisation } from "./organisation";
import { Random } from "./random";
import { DEMO_PASSWORD, makeShares } from "./shares";

/** Writes the demo's data: a file of records for each stand-in store, and the house's own file for import. */
const folder = z.string().min(1).parse(process.argv[2]);
const calendar = new Calendar(process.env.LATCH_NOW ? new Date(process.env.LATCH_NOW) : new Date());
const random = new Random(1789);

const organisation = makeOrganisation(random, calendar);
const items = makeItems(random, calendar, organisation);
const shares = makeShares(random, calendar, organisation, items, STORE_LIMITS);
const acts = makeActs(random, calendar, organisation, shares.all);

const engagement = (id: string, name: string, paths: string[], organisations: string[], from: number, to: number) =>
  ({
    type: "engagement",
    id,
    name,
    itemIds: paths.map((path) => items.at(path).id),
    organisations,
    startsAt: calendar.daysAgo(from),
    endsAt: calendar.inDays(to),
  }) satisfies EngagementRecord;

const engagements = [
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

const stores = Object.keys(STORE_LIMITS);
mkdirSync(folder, { recursive: true });
for (const storeId of stores) {
  const inStore = items.inStore(storeId);
  const ids = new Set(inStore.map((item) => item.id));
  const own = shares.all.filter((share) => ids.has(share.itemId));
  const directory =
    storeId === "stacks"
      ? [...organisation.insiders, ...organisation.outsiders, ...organisation.groups, ...organisation.members]
      : [];
  const passwords = own
    .filter((share) => shares.keyed.includes(share.id))
    .map((share) => ({ type: "password", linkId: share.id, password: DEMO_PASSWORD }));
  const ownActs = acts.filter((act) => ids.has(act.itemId ?? ""));
  write(`${storeId}.jsonl`, [
    ...[...directory, ...inStore, ...own, ...ownActs].map((record) =>
      recordLine(record as EstateRecord, { withAddresses: true }),
    ),
    ...passwords.map((line) => JSON.stringify(line)),
  ]);
}
write(
  "house.jsonl",
  [
    { type: "estate", version: 1, asOf: calendar.today, homeDomains: [HOME] } satisfies EstateRecord,
    ...organisation.parties,
    ...engagements,
  ].map((record) => JSON.stringify(record)),
);
const outside = shares.all.filter((share) => !share.revokedAt).length;
console.log(
  `${items.all.length} items, ${shares.all.length} shares (${outside} not revoked), ${acts.length} acts, ${organisation.insiders.length} people in the house`,
);

function write(name: string, lines: string[]) {
  writeFileSync(join(folder, name), lines.join("\n") + "\n");
}
